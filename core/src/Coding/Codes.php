<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Change\Operation;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Segment;
use Reihe\Core\Plan\SegmentKind;
use Reihe\Core\Plan\WbsElement;

/**
 * Activity codes and names of a project put together from segments, and what does not fit its level scheme. Codes are unique: where
 * the segments give the same twice, a number follows. The order of activities is that of their rows.
 */
final class Codes
{
    private const SAYS_NOTHING = ['', 'task', 'activity', 'work', 'new activity', 'tbd', 'tba', 'misc', 'miscellaneous', 'other', 'n/a',
        '-',
        'todo', 'test', 'xxx', 'various', 'general'];

    private readonly LevelCodes $levels;

    /** @var list<Activity> in the order of rows */
    private array $activities = [];

    /** @var list<WbsElement> in the order of rows */
    private array $elements = [];

    /** @var array<string, list<string>> WBS uid => codes of the levels */
    private array $paths = ['' => []];

    /** @var array<string, list<string>> WBS uid => names of the levels */
    private array $names = ['' => []];

    /** @var array<string, array<string, string>> activity uid => key of a code set => key of the entry */
    private array $entries = [];

    public function __construct(private readonly Plan $plan, private readonly string $project, LevelCodes $levels)
    {
        $this->levels = $levels;
        $below = [];
        foreach ($plan->wbs as $w) {
            if ($w->project === $project) {
                $below[$w->parent ?? ''][] = $w;
            }
        }
        foreach ($plan->activities as $a) {
            if ($a->project === $project) {
                $below[$a->wbs ?? ''][] = $a;
            }
        }
        $walk = function (string $at) use (&$walk, $below): void {
            $rows = $below[$at] ?? [];
            usort($rows, static fn (WbsElement|Activity $x, WbsElement|Activity $y): int => [$x->position, $x->uid] <=> [$y->position,
                $y->uid]);
            foreach ($rows as $row) {
                if ($row instanceof Activity) {
                    $this->activities[] = $row;
                } else {
                    $this->elements[] = $row;
                    $this->paths[$row->uid] = [...$this->paths[$at], $row->code];
                    $this->names[$row->uid] = [...$this->names[$at], $row->name];
                    $walk($row->uid);
                }
            }
        };
        $walk('');
        foreach ($plan->codings as $coding) {
            $set = $coding->activity === null ? null : $plan->codeSets[$plan->entries[$coding->entry]->codeSet];
            if ($coding->activity !== null && $set?->scope === CodeScope::Activity) {
                $this->entries[$coding->activity][$set->key] = $plan->entries[$coding->entry]->key;
            }
        }
    }

    /** @return array<string, string> activity uid => code */
    public function activityCodes(): array
    {
        $codes = $taken = $counters = [];
        foreach ($this->activities as $a) {
            $place = $a->wbs ?? '';
            $counters[$place] = ($counters[$place] ?? 0) + 1;
            $code = $free = mb_substr($this->put($this->levels->scheme->activityCode, $a, $counters[$place]), 0, 60);
            for ($n = 2; isset($taken[$free]) || $free === ''; $n++) {
                $free = mb_substr($code, 0, 55)."-{$n}";
            }
            $taken[$free] = true;
            $codes[$a->uid] = $free;
        }

        return $codes;
    }

    /** @return array<string, string> activity uid => name, where the scheme puts names together */
    public function activityNames(): array
    {
        $names = [];
        foreach ($this->levels->scheme->activityName === [] ? [] : $this->activities as $a) {
            $names[$a->uid] = mb_substr($this->put($this->levels->scheme->activityName, $a, 0), 0, 255);
        }

        return $names;
    }

    /**
     * What would have to change.
     *
     * @param  bool  $names  names too
     * @return list<Operation>
     */
    public function regenerate(bool $names = false): array
    {
        $codes = $this->levels->scheme->activityCode === [] ? [] : $this->activityCodes();
        $named = $names ? $this->activityNames() : [];
        $operations = [];
        foreach ($this->activities as $a) {
            $after = array_filter(['code' => $codes[$a->uid] ?? null, 'name' => $named[$a->uid] ?? null],
                static fn (?string $v): bool => $v !== null);
            $before = array_intersect_key(['code' => $a->code, 'name' => $a->name], $after);
            $after = array_diff_assoc($after, $before);
            if ($after !== []) {
                $operations[] = Operation::update(EntityKind::Activity, $a->uid, $after, array_intersect_key($before, $after));
            }
        }

        return $operations;
    }

    /** @return array<string, string> WBS uid => its path, joined by the separators of the levels */
    public function wbsPaths(): array
    {
        $paths = [];
        foreach ($this->elements as $w) {
            $paths[$w->uid] = $this->levels->joined($this->paths[$w->uid]);
        }

        return $paths;
    }

    /** @return list<CodeFinding> */
    public function findings(): array
    {
        return [...$this->wbsFindings(), ...$this->nameFindings()];
    }

    /** @return list<CodeFinding> */
    private function wbsFindings(): array
    {
        $findings = $seen = [];
        foreach ($this->elements as $w) {
            $path = $this->paths[$w->uid];
            $label = $this->levels->joined($path) ?: $w->name;
            $say = static function (string $what, string $detail) use (&$findings, $w, $label): void {
                $findings[] = new CodeFinding($what, false, $w->uid, $label, $detail);
            };
            $allowed = $this->levels->below(array_slice($path, 0, -1));
            $length = $this->levels->scheme->levels[count($path) - 1]->length ?? null;
            if ($w->code !== '' && $length !== null && mb_strlen($w->code) !== $length) {
                $say('wrong-length', (string) $length);
            }
            if ($allowed !== [] && ! in_array($w->code, array_map(static fn ($c): string => $c->code, $allowed), true)) {
                $deeper = $this->levels->below([...array_slice($path, 0, -1), $allowed[0]->code]);
                $isDeeper = in_array($w->code, array_map(static fn ($c): string => $c->code, $deeper), true);
                $say($isDeeper ? 'level-skipped' : 'not-in-list', $isDeeper ? $this->levels->nameOf(null, count($path))
                    : implode(', ', array_map(static fn ($c): string => $c->code, array_slice($allowed, 0, 12))));
            }
            $place = implode("\0", $path);
            if (isset($seen[$place])) {
                $say('duplicate', $seen[$place]);
            }
            $seen[$place] = $w->name;
        }
        // work stands beside elements of the next level: there it leaves that level out
        $parents = [];
        foreach ($this->elements as $w) {
            $parents[$w->parent ?? ''] = true;
        }
        foreach ($this->activities as $a) {
            $depth = count($this->paths[$a->wbs ?? '']);
            if (isset($parents[$a->wbs ?? '']) && $depth < count($this->levels->scheme->levels)
                && $this->levels->below($this->paths[$a->wbs ?? '']) !== []) {
                $findings[] = new CodeFinding('level-skipped', true, $a->uid, $a->code,
                    $this->levels->nameOf($this->levels->find($this->paths[$a->wbs ?? '']), $depth + 1));
            }
        }

        return $findings;
    }

    /** @return list<CodeFinding> names that are there twice, and names that say nothing */
    private function nameFindings(): array
    {
        $findings = $first = [];
        foreach ($this->activities as $a) {
            $name = mb_strtolower(trim($a->name));
            if (in_array($name, self::SAYS_NOTHING, true) || mb_strlen($name) < 3 || preg_match('/^[\d\W]+$/u', $name) === 1) {
                $findings[] = new CodeFinding('says-nothing', true, $a->uid, $a->code, $a->name);
            } elseif (isset($first[$name])) {
                $findings[] = new CodeFinding('name-twice', true, $a->uid, $a->code, $first[$name]);
            }
            $first[$name] ??= $a->code;
        }

        return $findings;
    }

    /** @param  list<Segment>  $segments */
    private function put(array $segments, Activity $a, int $count): string
    {
        $path = $this->paths[$a->wbs ?? ''];
        $text = '';
        foreach ($segments as $s) {
            $text .= match ($s->kind) {
                SegmentKind::ProjectKey => $this->plan->projects[$this->project]->key,
                SegmentKind::Level => $path[$s->level - 1] ?? '',
                SegmentKind::LevelName => $this->names[$a->wbs ?? ''][$s->level - 1] ?? '',
                SegmentKind::Levels => $this->levels->joined($path),
                SegmentKind::Literal => $s->text,
                SegmentKind::Counter => str_pad((string) ($count * $s->step), $s->width, '0', STR_PAD_LEFT),
                SegmentKind::Entry => $this->entries[$a->uid][$s->set] ?? '',
                SegmentKind::Name => $a->name,
            };
        }

        return trim($text);
    }
}
