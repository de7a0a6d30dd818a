<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;

/**
 * A named list of hierarchical entries.
 *
 * @property int $id
 * @property string $scope
 * @property string $key
 * @property string $name
 */
final class CodeSet extends Model
{
    public $timestamps = false;

    protected $fillable = ['scope', 'key', 'name', 'position'];

    /** @return HasMany<CodeEntry, $this> */
    public function entries(): HasMany
    {
        return $this->hasMany(CodeEntry::class)->orderBy('position')->orderBy('id');
    }
}
