<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;

/** A ripple as one user may see it: projects out of reach are only counted. */
final class RippleView
{
    /**
     * @param  array<string, mixed>  $ripple  as from {@see \Reihe\Core\Change\Ripple::toArray()}
     * @return array<string, mixed>
     */
    public static function of(array $ripple, Reach $reach): array
    {
        /**
         * @var array{movedActivities: int, projects: list<array{key: string, moved: int}>, moved: list<array{label: string}>,
         *     risks: list<array{label: string}>} $ripple
         */
        $hidden = ['projects' => 0, 'activities' => 0];
        $seen = static fn (string ...$labels): bool => array_filter($labels,
            static fn (string $label): bool => ! $reach->sees($label)) === [];
        foreach ($ripple['projects'] as $project) {
            if (! $seen($project['key'])) {
                $hidden['projects']++;
                $hidden['activities'] += $project['moved'];
            }
        }

        return [
            'movedActivities' => $ripple['movedActivities'],
            'projects' => array_values(array_filter($ripple['projects'], static fn (array $p): bool => $seen($p['key']))),
            'moved' => array_values(array_filter($ripple['moved'], static fn (array $m): bool => $seen($m['label']))),
            'risks' => array_values(array_filter($ripple['risks'], static fn (array $r): bool => $seen(...explode(' → ', $r['label'])))),
            'hidden' => $hidden,
        ];
    }
}
