<?php

declare(strict_types=1);

namespace App\Planning;

use App\Models\ChangeSet;
use App\Models\User;
use Reihe\Core\Change\ItemState;

/** What became of the proposal that a change carries out, or of the change that it takes back. */
final class Decisions implements Follower
{
    public function follow(Committed $change): void
    {
        $request = $change->request;
        if ($change->isPart && $request->proposal !== null) {
            ChangeSet::query()->whereKey($request->proposal->id)->update(self::of((string) $request->items, $change->by));
        }
        $request->undoes?->update(['state' => 'undone', 'decided_at' => now(), 'decided_by' => $change->by->id]);
    }

    /** @return array<string, mixed> columns of a proposal whose items stand like this */
    public static function of(string $items, User $by): array
    {
        $state = match (true) {
            str_contains($items, ItemState::Open->value) => 'proposed',
            str_contains($items, ItemState::Accepted->value) => 'applied',
            default => 'rejected',
        };

        return ['items' => $items, 'state' => $state] + ($state === 'proposed' ? [] : ['decided_at' => now(), 'decided_by' => $by->id]);
    }
}
