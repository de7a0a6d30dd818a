<?php

declare(strict_types=1);

namespace App\Models;

use Carbon\CarbonImmutable;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * Long work that somebody asked for.
 *
 * @property int $id
 * @property string $uid
 * @property int $user_id
 * @property string $what
 * @property string $title
 * @property string $state
 * @property string $step
 * @property int $done
 * @property int $total
 * @property bool $cancel
 * @property array<string, mixed> $input
 * @property array<string, mixed>|null $result
 * @property array<string, mixed>|null $problem
 * @property list<int>|null $branches ids of those that its user saw when it was begun
 * @property CarbonImmutable $created_at
 * @property CarbonImmutable|null $seen_at
 * @property CarbonImmutable|null $ended_at
 * @property-read User|null $user
 */
final class BackgroundJob extends Model
{
    public const LISTED = ['id', 'uid', 'user_id', 'what', 'title', 'state', 'step', 'done', 'total', 'cancel',
        'result', 'problem', 'branches', 'created_at', 'seen_at', 'ended_at'];

    /** seconds without a sign of life after which running work counts as dead */
    private const SILENT = 120;

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['cancel' => 'boolean', 'input' => 'array', 'result' => 'array', 'problem' => 'array', 'branches' => 'array',
        'created_at' => 'immutable_datetime', 'seen_at' => 'immutable_datetime', 'ended_at' => 'immutable_datetime'];

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /**
     * @param  bool  $covered  whoever asked for it sees everything that they saw when it was begun
     * @return array<string, mixed> what it was about and what came of it only then
     */
    public function shown(bool $covered = true): array
    {
        $dead = $this->state === 'running' && $this->seen_at !== null && $this->seen_at->diffInSeconds(now()) > self::SILENT;

        $cutOff = ['type' => 'urn:reihe:problem:stopped', 'title' => 'Stopped', 'status' => 500,
            'detail' => 'The work was cut off on the server; nothing was changed. Please start it again.'];

        return ['uid' => $this->uid, 'what' => $this->what, 'title' => $covered ? $this->title : '', 'state' => $dead ? 'failed'
            : $this->state,
            'step' => $this->step, 'done' => $this->done, 'total' => $this->total,
            'created' => $this->created_at->toIso8601String(), 'result' => $covered ? $this->result : null,
            'problem' => match (true) {
                $dead => $cutOff,
                $this->problem === null, $covered => $this->problem,
                default => ['detail' => 'It was about something that you see no longer.'] + array_intersect_key($this->problem,
                    ['type' => 0, 'title' => 0, 'status' => 0]),
            }];
    }
}
