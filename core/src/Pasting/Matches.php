<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Time\Instant;

/** What rows of a table are about that are there already, when the table is merged by code or name; nothing when it is not. */
final class Matches
{
    /** @var array<string, Activity|null> key in small letters => activity; null for several */
    private array $activities = [];

    /** @var array<string, WbsElement|null> */
    private array $wbs = [];

    /** @var array<string, AssignedWork>|null by activity */
    private ?array $work = null;

    /** @var array<string, true> uids that a row was about */
    private array $met = [];

    public function __construct(private readonly Plan $plan, private readonly PasteWish $wish)
    {
        if ($wish->merge === null) {
            return;
        }
        foreach ($plan->activities as $a) {
            if ($a->project === $wish->project) {
                $key = mb_strtolower($wish->merge === Meaning::Name ? $a->name : $a->code);
                $this->activities[$key] = array_key_exists($key, $this->activities) ? null : $a;
            }
        }
        foreach ($plan->wbs as $w) {
            if ($w->project === $wish->project) {
                foreach (array_unique([mb_strtolower($w->code), mb_strtolower($w->name)]) as $key) {
                    $this->wbs[$key] = array_key_exists($key, $this->wbs) ? null : $w;
                }
            }
        }
    }

    /** The object that a row is about; null for a new one. Each is met once. */
    public function of(bool $isWbs, string $code, string $name): Activity|WbsElement|null
    {
        if ($this->wish->merge === null) {
            return null;
        }
        $found = $isWbs ? $this->wbs[mb_strtolower($code)] ?? $this->wbs[mb_strtolower($name)] ?? null
            : $this->activities[mb_strtolower($this->wish->merge === Meaning::Name ? $name : $code)] ?? null;
        if ($found === null || isset($this->met[$found->uid])) {
            return null;
        }
        $this->met[$found->uid] = true;

        return $found;
    }

    /**
     * What a row changes of the object; null for nothing.
     *
     * @param  array<string, mixed>  $made  fields that the row gives
     */
    public function update(Activity|WbsElement $existing, array $made): ?Operation
    {
        $now = $existing->fields();
        if ($existing instanceof Activity) {
            if (isset($made['kind']) && ! $existing->kind->isMilestone()) {
                $made['duration'] = 0;
            } elseif (isset($made['kind'])) {
                unset($made['kind']); // it is one already, whichever
            } elseif (isset($made['duration']) && $existing->kind !== Kind::Task) {
                $made['kind'] = Kind::Task->value;
            }
            if (isset($made['constraints']) && is_array($made['constraints']) && is_array($now['constraints'])) {
                $made['constraints'] = [...array_values(array_filter($now['constraints'], static fn (mixed $c): bool => is_array($c)
                    && ($c['kind'] ?? '') !== 'start-no-earlier')), ...$made['constraints']];
            }
        }
        $after = array_filter($made, static fn (mixed $value, string $name): bool => ($now[$name] ?? null) !== $value,
            ARRAY_FILTER_USE_BOTH);

        return $after === [] ? null : Operation::update(EntityKind::of($existing), $existing->uid(), $after, array_intersect_key($now,
            $after)
            + array_fill_keys(array_keys($after), null));
    }

    /**
     * Cells with what was there before, where it was something else.
     *
     * @param  list<Cell>  $cells
     * @param  list<string>  $meanings
     * @return list<Cell>
     */
    public function was(Activity|WbsElement|null $existing, array $cells, array $meanings): array
    {
        if ($existing === null) {
            return $cells;
        }
        $day = $this->day($existing) ?? 1;
        foreach ($cells as $at => $cell) {
            $was = match ($meanings[$at]) {
                'name' => $existing->name,
                'code' => $existing->code,
                'duration' => $existing instanceof Activity ? ($existing->kind->isMilestone() ? 'finish milestone'
                    : ($existing->estimate ? '≈ ' : '').TypedSpan::shown($existing->duration, $day)) : null,
                'deadline' => $existing->deadline === null ? null : Instant::format($existing->deadline),
                'actualStart' => $existing instanceof Activity ? Instant::formatOrNull($existing->actualStart) : null,
                'actualFinish' => $existing instanceof Activity ? Instant::formatOrNull($existing->actualFinish) : null,
                'remaining' => $existing instanceof Activity ? TypedSpan::shown($existing->remainingDuration(), $day) : null,
                'progress' => $existing instanceof Activity ? PastedProgress::percent($existing->percent(($this->work
                    ??= AssignedWork::of($this->plan))[$existing->uid] ?? new AssignedWork) / 1000) : null,
                default => null,
            };
            if ($was !== null && $cell->understood !== null && $cell->wrong === null && $was !== $cell->understood) {
                $cells[$at] = new Cell($cell->text, $cell->understood, null, $was);
            }
        }

        return $cells;
    }

    /** Minutes of a working day of the activity's calendar. */
    public function day(Activity|WbsElement|null $existing): ?int
    {
        return ! $existing instanceof Activity ? null : $this->plan->calendars[$existing->calendar
            ?? $this->plan->projects[$existing->project]->calendar]->dayLength($this->plan->calendars);
    }

    public function hasRemark(string $activity, string $text): bool
    {
        foreach ($this->wish->merge === null ? [] : $this->plan->remarks as $remark) {
            if ($remark->activity === $activity && $remark->text === $text) {
                return true;
            }
        }

        return false;
    }

    /** @return list<Operation> so that the activity is coded with the entry; another one of a set that takes one gives way */
    public function coding(string $activity, CodeEntry $entry, string $uid): array
    {
        $set = $this->plan->codeSets[$entry->codeSet] ?? null;
        $others = [];
        foreach (isset($this->met[$activity]) ? $this->plan->codings : [] as $coding) {
            if ($coding->activity === $activity && ($this->plan->entries[$coding->entry] ?? null)?->codeSet === $entry->codeSet) {
                if ($coding->entry === $entry->uid) {
                    return [];
                }
                $others[] = $coding;
            }
        }
        if ($others !== [] && ! ($set->multiple ?? false)) {
            return [Operation::update(EntityKind::Coding, $others[0]->uid, ['entry' => $entry->uid], ['entry' => $others[0]->entry])];
        }

        return [Operation::create(EntityKind::Coding, $uid, ['project' => $this->wish->project, 'activity' => $activity,
            'entry' => $entry->uid])];
    }

    /**
     * @param  array<int, string>  $uids  of the rows
     * @return list<string> uids of activities of the project, or of the element that rows go into, that no row is about
     */
    public function missing(array $uids): array
    {
        if ($this->wish->merge === null) {
            return [];
        }
        $inside = $this->wish->wbs === null ? null : [$this->wish->wbs => true];
        do {
            $grew = false;
            foreach ($inside === null ? [] : $this->plan->wbs as $uid => $element) {
                if (isset($inside[$element->parent ?? '']) && ! isset($inside[$uid])) {
                    $inside[$uid] = $grew = true;
                }
            }
        } while ($grew);
        $rows = array_flip($uids);
        $missing = [];
        foreach ($this->plan->activities as $uid => $a) {
            if ($a->project === $this->wish->project && ! isset($rows[$uid]) && ($inside === null || isset($inside[$a->wbs ?? '']))) {
                $missing[] = (string) $uid;
            }
        }

        return $missing;
    }
}
