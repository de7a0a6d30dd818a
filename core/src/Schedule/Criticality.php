<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** Critical and near-critical activities. */
final class Criticality
{
    public static function mark(Network $n, Dates $d): void
    {
        $critical = $near = $n->nodes === 0 ? [] : array_fill(0, $n->nodes, false);
        for ($i = 0; $i < $n->nodes; $i++) {
            $float = $d->totalFloat[$i];
            if ($float === null) {
                continue;
            }
            $p = $n->project[$i];
            $perDay = $n->axes[$n->axis[$i]]->minutesPerDay;
            $critical[$i] = ! $n->byLongestPath[$p] && $float <= $n->criticalDays[$p] * $perDay;
            $near[$i] = $float <= $n->nearCriticalDays[$p] * $perDay;
        }
        foreach ($n->byLongestPath as $p => $chosen) {
            if ($chosen) {
                foreach (self::longestPath($n, $d, $p) as $i) {
                    $critical[$i] = ($n->project[$i] === $p && $n->state[$i] !== Network::STUB) || $critical[$i];
                }
            }
        }
        for ($i = 0; $i < $n->nodes; $i++) {
            $near[$i] = $near[$i] && ! $critical[$i];
        }
        $d->critical = $critical;
        $d->nearCritical = $near;
    }

    /**
     * Activities of a project from which driving links lead, through any project, to one of its activities with the
     * latest early finish.
     *
     * @return array<int, int>
     */
    public static function longestPath(Network $n, Dates $d, int $project): array
    {
        $queue = [];
        $seen = [];
        for ($i = 0; $i < $n->nodes; $i++) {
            if ($n->project[$i] === $project && $n->kind[$i] !== Network::HAMMOCK && $d->finish[$i] === $d->ownEnd[$project]) {
                $queue[] = $i;
                $seen[$i] = true;
            }
        }
        for ($at = 0; $at < count($queue); $at++) {
            $i = $queue[$at];
            for ($k = $n->in[$i]; $k < $n->in[$i + 1]; $k++) {
                if ($d->driving[$k] && ! isset($seen[$n->from[$k]])) {
                    $seen[$n->from[$k]] = true;
                    $queue[] = $n->from[$k];
                }
            }
        }

        return array_values(array_filter($queue, static fn (int $i): bool => $n->project[$i] === $project));
    }
}
