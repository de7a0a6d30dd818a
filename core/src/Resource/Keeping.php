<?php

declare(strict_types=1);

namespace Reihe\Core\Resource;

use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Assignment;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Keeps;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\Plan;

/**
 * Work is duration × intensity, for each assignment that has an intensity: where one of the three is changed, one stays and one follows.
 * What stays is said by the activity, else by its project; the one that was typed stays anyway. The activity lasts as long as its longest
 * assignment where work drives it (docs/calculation.md, *Duration, work, intensity*, with every combination).
 */
final class Keeping
{
    /** intensity of one, full time, in thousandths of a percent */
    public const ONE = 100_000;

    /** @var list<Operation> what follows */
    public array $operations = [];

    /** @var array<string, array{activity: string, stays: Keeps, follows: Keeps}> what stayed and what followed, once for each activity */
    public array $kept = [];

    /** @var array<string, array<string, Assignment>>|null activity => uid => those of no material, found when they are first asked for */
    private ?array $assigned = null;

    /** @param  array<string, array<string, true>>  $gone  kind => uid of what the same operations delete */
    private function __construct(private readonly Plan $plan, private readonly array $gone)
    {
    }

    /**
     * May anything follow from them?
     *
     * @param  list<Operation>  $operations
     */
    public static function concerns(array $operations): bool
    {
        foreach ($operations as $o) {
            if (($o->kind === EntityKind::Activity && $o->verb === Verb::Update) || ($o->kind === EntityKind::Assignment
                && $o->verb !== Verb::Delete)) {
                return true;
            }
        }

        return false;
    }

    /**
     * What follows from operations as somebody typed them, on a plan before them. What they say themselves stays as they say it.
     *
     * @param  list<Operation>  $operations
     */
    public static function along(Plan $plan, array $operations): self
    {
        $typed = $said = $gone = [];
        foreach ($operations as $o) {
            if ($o->verb === Verb::Delete) {
                $gone[$o->kind->value][$o->uid] = true;
            }
            if ($o->kind === EntityKind::Activity && $o->verb === Verb::Update && (isset($o->after['duration'])
                || array_key_exists('remaining', $o->after ?? []))) {
                $typed[$o->uid]['activity'] = ($typed[$o->uid]['activity'] ?? []) + ($o->after ?? []);
            }
            if ($o->kind === EntityKind::Assignment && $o->verb !== Verb::Delete) {
                $now = $plan->assignments[$o->uid] ?? null;
                $activity = $o->after['activity'] ?? $now?->activity;
                if (is_string($activity) && array_intersect_key($o->after ?? [], ['remainingWork' => 0, 'intensity' => 0,
                    'resource' => 0]) !== []) {
                    $said[$activity][$o->uid] = $o;
                    $typed[$activity] ??= [];
                }
            }
        }
        $self = new self($plan, $gone);
        foreach ($typed as $uid => $more) {
            $activity = isset($gone[EntityKind::Activity->value][$uid]) ? null : $plan->activities[(string) $uid] ?? null;
            if ($activity !== null && $activity->kind === Kind::Task && ! $activity->isFinished()) {
                $self->activity($activity, $more['activity'] ?? null, $said[$uid] ?? []);
            }
        }

        return $self;
    }

    /**
     * @param  array<string, mixed>|null  $typed  of the activity itself; null where it is not touched
     * @param  array<string, Operation>  $said  of its assignments, by uid
     */
    private function activity(Activity $a, ?array $typed, array $said): void
    {
        $keeps = Keeps::tryFrom(is_string($typed['keeps'] ?? null) ? $typed['keeps'] : '') ?? $a->keeps
            ?? $this->plan->projects[$a->project]->keeps;
        $duration = $this->duration($a, $typed);
        if ($typed !== null && $duration === $a->remainingDuration()) {
            $typed = null; // it takes as long as before: nothing follows from that
        }
        $longest = 0;
        $drives = false;
        foreach ($this->assignments($a->uid, $said) as $uid => $now) {
            $after = isset($said[$uid]) ? $said[$uid]->after ?? [] : [];
            $isNew = isset($after['resource']) && ($now->resource === null || $said[$uid]->verb === Verb::Create);
            $saidWork = self::within($after['remainingWork'] ?? null, 0, Assignment::MAX_WORK);
            $saidIntensity = self::within($after['intensity'] ?? null, 1, Assignment::MAX_INTENSITY);
            $work = $saidWork ? $after['remainingWork'] : $now->remainingWork;
            $intensity = array_key_exists('intensity', $after) && ! $saidIntensity ? null : $after['intensity'] ?? $now->intensity;
            if (! is_int($intensity) && ! ($isNew && $work !== null)) {
                continue; // nothing is said of how much of anything works on it
            }
            $time = max(1, $duration - ($a->isStarted() ? 0 : $now->offset));
            if ($work === 0) {
                continue; // done
            }
            $follows = match (true) {
                ! is_int($intensity) => Keeps::Intensity,
                $work === null => Keeps::Work,
                $typed !== null => match (true) {
                    $saidWork && $saidIntensity => null,
                    $saidWork => Keeps::Intensity,
                    $saidIntensity => Keeps::Work,
                    default => $keeps === Keeps::Work ? Keeps::Intensity : Keeps::Work,
                },
                $saidWork && $saidIntensity => $keeps === Keeps::Duration ? null : Keeps::Duration,
                $saidWork => $keeps === Keeps::Duration ? Keeps::Intensity : Keeps::Duration,
                $saidIntensity => $keeps === Keeps::Work ? Keeps::Duration : Keeps::Work,
                default => null,
            };
            if ($follows === Keeps::Work) {
                $this->follow($uid, $said, ['remainingWork' => min(Assignment::MAX_WORK, self::rounded($time * $intensity, self::ONE))],
                    $now);
            } elseif ($follows === Keeps::Intensity) {
                $this->follow($uid, $said, ['intensity' => min(Assignment::MAX_INTENSITY,
                    max(1, self::rounded((int) $work * self::ONE, $time)))], $now);
            }
            $drives = $drives || $follows === Keeps::Duration;
            $longest = max($longest, is_int($intensity) && $work !== null && $follows !== Keeps::Work
                ? ($a->isStarted() ? 0 : $now->offset) + max(1, self::rounded($work * self::ONE, $intensity)) : 0);
            if ($follows !== null) {
                $this->kept["{$a->uid} {$follows->value}"] = ['activity' => $a->uid, 'stays' => $this->stays($keeps, $follows,
                    $typed !== null,
                    $saidWork), 'follows' => $follows];
            }
        }
        if ($drives && $longest > 0 && $longest !== $duration) {
            $longest = min(Activity::MAX_DURATION, $longest);
            $fields = $a->isStarted()
                ? ['duration' => max(1, $a->duration - $a->remainingDuration() + $longest), 'remaining' => $longest]
                : ['duration' => $longest];
            $this->operations[] = Operation::update(EntityKind::Activity, $a->uid, $fields, array_intersect_key($a->fields(), $fields));
        }
    }

    /** The one of the two others that neither was typed nor followed. */
    private function stays(Keeps $keeps, Keeps $follows, bool $typedDuration, bool $typedWork): Keeps
    {
        $typed = $typedDuration ? Keeps::Duration : ($typedWork ? Keeps::Work : Keeps::Intensity);

        return array_values(array_filter(Keeps::cases(), static fn (Keeps $k): bool => $k !== $follows && $k !== $typed))[0] ?? $keeps;
    }

    /**
     * What is left to do of it, as it will be.
     *
     * @param  array<string, mixed>|null  $typed
     */
    private function duration(Activity $a, ?array $typed): int
    {
        $remaining = $typed['remaining'] ?? null;
        $duration = $typed['duration'] ?? null;

        return match (true) {
            $a->isStarted() && self::within($remaining, 1, Activity::MAX_DURATION) => $remaining,
            $a->isStarted() && self::within($duration, 1, Activity::MAX_DURATION) => max(1, $duration
                - ($a->duration - $a->remainingDuration())),
            self::within($duration, 1, Activity::MAX_DURATION) => $duration,
            default => $a->remainingDuration(),
        };
    }

    /**
     * Those that it will have, as they are now or will be.
     *
     * @param  array<string, Operation>  $said
     * @return array<string, Assignment>
     */
    private function assignments(string $activity, array $said): array
    {
        if ($this->assigned === null) {
            $this->assigned = [];
            foreach ($this->plan->assignments as $uid => $assignment) {
                if (! $this->isMaterial($assignment->resource)) {
                    $this->assigned[$assignment->activity][(string) $uid] = $assignment;
                }
            }
        }
        $all = $this->assigned[$activity] ?? [];
        foreach ($said as $uid => $o) {
            if ($o->verb === Verb::Create) {
                $resource = is_string($o->after['resource'] ?? null) ? $o->after['resource'] : null;
                $offset = $o->after['offset'] ?? 0;
                if (! $this->isMaterial($resource)) {
                    $all[$uid] = new Assignment($uid, $activity, resource: $resource,
                        offset: self::within($offset, 0, Activity::MAX_DURATION) ? $offset : 0);
                }
            }
        }

        return array_diff_key($all, $this->gone[EntityKind::Assignment->value] ?? []);
    }

    private function isMaterial(?string $resource): bool
    {
        return $resource !== null && ($this->plan->resources[$resource] ?? null)?->isMaterial() === true;
    }

    /**
     * @param  array<string, Operation>  $said
     * @param  array<string, int>  $fields
     */
    private function follow(string $uid, array $said, array $fields, Assignment $now): void
    {
        $before = array_intersect_key($now->fields(), $fields);
        if ($before === $fields) {
            return;
        }
        $isNew = isset($said[$uid]) && $said[$uid]->verb === Verb::Create;
        $this->operations[] = Operation::update(EntityKind::Assignment, $uid, $fields, $isNew
            ? array_intersect_key($said[$uid]->after ?? [],
                $fields) + array_map(static fn (): null => null, $fields) : $before);
    }

    /**
     * What is out of its range is refused when it is read; nothing follows from it.
     *
     * @phpstan-assert-if-true int $value
     */
    private static function within(mixed $value, int $min, int $max): bool
    {
        return is_int($value) && $value >= $min && $value <= $max;
    }

    /** Rounded to the nearest whole, halves up. */
    private static function rounded(int $dividend, int $divisor): int
    {
        return intdiv(2 * $dividend + $divisor, 2 * $divisor);
    }
}
