<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Access\Role;
use App\Models\CodeSet;
use App\Models\CodeValue;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;

/** Code sets and their values; a value can be made in the moment of assigning it. */
final class CodeController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function createSet(Request $request): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Planner);
        /** @var array{name: string} $input */
        $input = $request->validate(['name' => ['required', 'string', 'max:120', Rule::unique('code_sets', 'name')->where('scope', 'project')]], ['name.unique' => 'There is a code set with this name already.']);
        $set = CodeSet::query()->create(['scope' => 'project', 'name' => $input['name'], 'key' => $this->key('code_sets', $input['name'], ['scope' => 'project']), 'position' => CodeSet::query()->count()]);

        return new JsonResponse(['key' => $set->key, 'name' => $set->name, 'id' => $set->id, 'values' => []], 201);
    }

    public function createValue(Request $request, CodeSet $set): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Planner);
        $parent = $request->input('parent') === null ? null : $request->integer('parent');
        /** @var array{name: string, parent?: int|null} $input */
        $input = $request->validate([
            'name' => ['required', 'string', 'max:120', Rule::unique('code_values', 'name')->where('code_set_id', $set->id)->where('parent_id', $parent)],
            'parent' => ['nullable', 'integer', Rule::exists('code_values', 'id')->where('code_set_id', $set->id)],
        ], ['name.unique' => 'There is a value with this name already.']);
        $value = CodeValue::query()->create(['code_set_id' => $set->id, 'parent_id' => $input['parent'] ?? null, 'name' => $input['name'],
            'key' => $this->key('code_values', $input['name'], ['code_set_id' => $set->id]), 'position' => $set->values()->count()]);

        return new JsonResponse(['id' => $value->id, 'parent' => $value->parent_id, 'key' => $value->key, 'name' => $value->name], 201);
    }

    /** @param  array<string, mixed>  $within */
    private function key(string $table, string $name, array $within): string
    {
        $key = $base = substr(Str::upper(Str::slug($name)) ?: 'CODE', 0, 36);
        for ($n = 2; \Illuminate\Support\Facades\DB::table($table)->where($within)->where('key', $key)->exists(); $n++) {
            $key = "{$base}-{$n}";
        }

        return $key;
    }
}
