<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Access\Role;
use App\Http\PlainText;
use App\Models\CodeEntry;
use App\Models\CodeSet;
use App\Planning\Enterprise;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;
use Illuminate\Validation\Rules\Unique;

/** Code sets and their entries; an entry can be made in the moment of assigning it. */
final class CodeController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function createSet(Request $request): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Planner);
        $set = DB::transaction(function () use ($request): CodeSet {
            Enterprise::lock();
            $name = $this->name($request, Rule::unique('code_sets', 'name')->where('scope', 'project'), 'There is a code set with this name already.');

            return CodeSet::query()->create(['scope' => 'project', 'name' => $name, 'key' => $this->key('code_sets', $name, ['scope' => 'project']), 'position' => CodeSet::query()->count()]);
        });

        return new JsonResponse(['key' => $set->key, 'name' => $set->name, 'id' => $set->id, 'entries' => []], 201);
    }

    public function createEntry(Request $request, int $set): JsonResponse
    {
        $this->reach->requireAnywhere(Role::Planner);
        $found = CodeSet::query()->findOrFail($set);
        $request->validate(['parent' => ['nullable', 'integer', Rule::exists('code_entries', 'id')->where('code_set_id', $set)]]);
        $parent = $request->input('parent') === null ? null : $request->integer('parent');
        $value = DB::transaction(function () use ($request, $found, $parent): CodeEntry {
            Enterprise::lock();
            $name = $this->name($request, Rule::unique('code_entries', 'name')->where('code_set_id', $found->id)->where('parent_id', $parent), 'There is an entry with this name already.');

            return CodeEntry::query()->create(['code_set_id' => $found->id, 'parent_id' => $parent, 'name' => $name,
                'key' => $this->key('code_entries', $name, ['code_set_id' => $found->id]), 'position' => $found->entries()->count()]);
        });

        return new JsonResponse(['id' => $value->id, 'parent' => $value->parent_id, 'key' => $value->key, 'name' => $value->name], 201);
    }

    private function name(Request $request, Unique $unique, string $taken): string
    {
        if (is_string($request->input('name'))) {
            $request->merge(['name' => trim($request->string('name')->value())]);
        }
        /** @var array{name: string} $input */
        $input = $request->validate(['name' => ['required', 'string', 'max:120', new PlainText, $unique]], ['name.unique' => $taken]);

        return $input['name'];
    }

    /** @param  array<string, mixed>  $within */
    private function key(string $table, string $name, array $within): string
    {
        $key = $base = substr(Str::upper(Str::slug($name)) ?: 'CODE', 0, 36);
        for ($n = 2; DB::table($table)->where($within)->where('key', $key)->exists(); $n++) {
            $key = "{$base}-{$n}";
        }

        return $key;
    }
}
