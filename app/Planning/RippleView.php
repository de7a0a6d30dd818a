<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;

/**
 * A ripple as one user may see it: projects out of reach are only counted.
 *
 * @phpstan-type Told array{movedActivities: int, projects: list<array{uid: string, key: string, moved: int}>,
 *     moved: list<array{project?: string|null, label: string}>, risks: list<array{projects?: list<string|null>, label: string}>}
 */
final class RippleView
{
    /**
     * @param  array<string, mixed>  $ripple  as from {@see \Reihe\Core\Change\Ripple::toArray()}
     * @return array<string, mixed>
     */
    public static function of(array $ripple, Reach $reach): array
    {
        /** @var Told $ripple */
        $hidden = ['projects' => 0, 'activities' => 0];
        $own = $reach->projects();
        // by uid: a key may belong to another project by now; what was stored before uids were has its labels only
        $sees = static fn (?string $project, string $label): bool => $project === null ? $reach->sees($label) : isset($own[$project]);
        foreach ($ripple['projects'] as $project) {
            if (! $sees($project['uid'], $project['key'])) {
                $hidden['projects']++;
                $hidden['activities'] += $project['moved'];
            }
        }
        $risks = [];
        foreach ($ripple['risks'] as $risk) {
            [$from, $to] = explode(' → ', $risk['label'], 2) + ['', ''];
            if ($sees($risk['projects'][0] ?? null, $from) && $sees($risk['projects'][1] ?? null, $to)) {
                $risks[] = $risk;
            }
        }
        $moved = [];
        foreach ($ripple['moved'] as $activity) {
            if ($sees($activity['project'] ?? null, $activity['label'])) {
                $moved[] = $activity;
            }
        }

        return [
            'movedActivities' => $ripple['movedActivities'],
            'projects' => array_values(array_filter($ripple['projects'], static fn (array $p): bool => $sees($p['uid'], $p['key']))),
            'moved' => $moved,
            'risks' => $risks,
            'hidden' => $hidden,
        ];
    }
}
