<?php

declare(strict_types=1);

namespace App\Planning;

use App\Access\Reach;
use Reihe\Core\Change\Ripple;

/** A ripple as one user may see it: projects out of reach are only counted. */
final class RippleView
{
    /** @return array<string, mixed> */
    public static function of(Ripple $ripple, Reach $reach): array
    {
        $data = $ripple->toArray();
        $hidden = ['projects' => 0, 'activities' => 0];
        foreach ($ripple->projects as $project) {
            if (! $reach->sees($project['key'])) {
                $hidden['projects']++;
                $hidden['activities'] += $project['moved'];
            }
        }
        $seen = static fn (string ...$labels): bool => array_filter($labels, static fn (string $label): bool => ! $reach->sees($label)) === [];

        return [
            'movedActivities' => $ripple->movedActivities,
            'projects' => array_values(array_filter((array) $data['projects'], static fn (mixed $p): bool => is_array($p) && is_string($p['key']) && $seen($p['key']))),
            'moved' => array_values(array_filter((array) $data['moved'], static fn (mixed $m): bool => is_array($m) && is_string($m['label']) && $seen($m['label']))),
            'risks' => array_values(array_filter($ripple->risks, static fn (array $r): bool => $seen(...explode(' → ', $r['label'])))),
            'hidden' => $hidden,
        ];
    }
}
