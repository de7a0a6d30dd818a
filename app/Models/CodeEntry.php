<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * @property int $id
 * @property int $code_set_id
 * @property int|null $parent_id
 * @property string $key
 * @property string $name
 */
final class CodeEntry extends Model
{
    public $timestamps = false;

    protected $fillable = ['code_set_id', 'parent_id', 'key', 'name', 'position'];
}
