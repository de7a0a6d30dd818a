<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Reihe\Core\Change\Operation;

/**
 * A named what-if: steps of operations on top of the live plan.
 *
 * @property int $id
 * @property string $uid
 * @property int $user_id
 * @property string $name
 * @property bool $shared
 * @property int $revision  rises with every step, undo and rebase
 * @property list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}> $steps
 * @property list<array{uid: string, headline: string, author: string, operations: list<array<string, mixed>>}> $undone  the next one last
 * @property \Illuminate\Support\Carbon $changed_at
 * @property User|null $user
 */
final class Draft extends Model
{
    public $timestamps = false;

    protected $guarded = [];

    protected function casts(): array
    {
        return ['shared' => 'boolean', 'steps' => 'array', 'undone' => 'array', 'changed_at' => 'datetime'];
    }

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /**
     * @param  list<string>|null  $steps  uids of those that are wanted; null for all
     * @return list<Operation>
     */
    public function operations(?array $steps = null): array
    {
        $operations = [];
        foreach ($this->steps as $step) {
            foreach ($steps === null || in_array($step['uid'], $steps, true) ? $step['operations'] : [] as $o) {
                $operations[] = Operation::fromArray($o);
            }
        }

        return $operations;
    }
}
