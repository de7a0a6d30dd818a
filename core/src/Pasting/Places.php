<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;

/** Positions of new rows: behind the row that they follow, or at the end of what they go into. */
final class Places
{
    /** @var array<string, float> uid of an element, '' for the project => last position given */
    private array $last = [];

    private float $step = 1.0;

    private readonly string $outermost;

    public function __construct(Plan $plan, PasteWish $wish)
    {
        $this->outermost = $wish->wbs ?? '';
        $positions = [];
        $after = null;
        foreach ([...$plan->wbs, ...$plan->activities] as $row) {
            $above = ($row instanceof WbsElement ? $row->parent : $row->wbs) ?? '';
            if ($row->project === $wish->project && $above === $this->outermost) {
                $positions[] = $row->position;
                $after = $row->uid === $wish->after ? $row->position : $after;
            }
        }
        $next = array_filter($positions, static fn (float $p): bool => $after !== null && $p > $after);
        $this->last[$this->outermost] = $after ?? ($positions === [] ? 0.0 : max($positions));
        $this->step = $next === [] ? 1.0 : (min($next) - (float) $after) / (TableText::MOST + 1);
    }

    public function next(?string $above): float
    {
        $this->last[$above ?? ''] = ($this->last[$above ?? ''] ?? 0.0) + (($above ?? '') === $this->outermost ? $this->step : 1.0);

        return $this->last[$above ?? ''];
    }
}
