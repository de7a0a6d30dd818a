<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A project as the screens list it. Written by {@see \App\Planning\Planning} only.
 *
 * @property int $id
 * @property string $uid
 * @property string $key
 * @property string $name
 * @property int $branch_id
 * @property int $revision
 * @property Branch $branch
 */
final class Project extends Model
{
    public $timestamps = false;

    protected $guarded = ['*'];

    /** @return BelongsTo<Branch, $this> */
    public function branch(): BelongsTo
    {
        return $this->belongsTo(Branch::class);
    }
}
