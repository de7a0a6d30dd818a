<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * Node of the hierarchy. `path` holds the ids from the root, each followed by a slash (`1/4/9/`).
 *
 * @property int $id
 * @property int|null $parent_id
 * @property string $name
 * @property string $path
 * @property int $position
 */
final class Branch extends Model
{
    public $timestamps = false;

    protected $fillable = ['parent_id', 'name', 'position'];

    protected static function booted(): void
    {
        self::created(static function (Branch $branch): void {
            $above = $branch->parent_id === null ? '' : self::query()->findOrFail($branch->parent_id)->path;
            $branch->path = "{$above}{$branch->id}/";
            $branch->saveQuietly();
        });
    }
}
