<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Proposal;

/**
 * A stored change set: operations as they were applied or proposed, and the ripple that goes with them.
 *
 * @property int $id
 * @property string $uid
 * @property int|null $author_id
 * @property string $source
 * @property string $reason
 * @property string $state
 * @property list<array<string, mixed>> $operations
 * @property array<string, mixed> $ripple
 * @property int $operation_count
 * @property int|null $undoes_id
 * @property string|null $items  states of a proposal's items, see {@see Proposal::of()}
 * @property int|null $part_of_id
 * @property string|null $step  uid of the change set together with which it is undone
 * @property string|null $draft_uid  the draft that was proposed
 * @property string|null $exchanged_with  where a file came from
 * @property array<string, array<array-key, string|array{string, string, array<string, mixed>|null}>>|null $identities  kind => uid here
 *     => what the source calls it; or uid, what it calls it and what it says of it
 * @property list<array<string, mixed>>|null $baselines  that came with a file, see {@see \App\Baselines\Imported}
 * @property array<string, mixed>|null $preview  what was said of a file, while its proposal waits
 * @property string|null $applied_at  when it was carried out, to the microsecond; a proposal later than it was made
 * @property \Illuminate\Support\Carbon $created_at
 * @property User|null $author
 */
final class ChangeSet extends Model
{
    /** what its uid looks like */
    public const UID = '/^(?!-?\d+$)[A-Za-z0-9._:@-]{1,64}$/D';

    public $timestamps = false;

    protected $guarded = [];

    protected function casts(): array
    {
        return ['operations' => OperationsCast::class, 'ripple' => 'array', 'identities' => 'array', 'baselines' => 'array',
            'preview' => 'array', 'created_at' => 'datetime', 'decided_at' => 'datetime'];
    }

    /** @return BelongsTo<User, $this> */
    public function author(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    public function proposal(): Proposal
    {
        return Proposal::of($this->operationList(), (string) $this->items);
    }

    /** @return list<Operation> */
    public function operationList(): array
    {
        return array_map(static fn (array $o): Operation => Operation::fromArray($o), $this->operations);
    }
}
