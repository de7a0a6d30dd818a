<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Access\Role;
use App\Http\PlainText;
use App\Models\Branch;
use App\Models\Project;
use App\Planning\Enterprise;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;

/** Branches of the hierarchy. */
final class BranchController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function create(Request $request): JsonResponse
    {
        $this->trim($request);
        $request->validate(['parent' => 'required|integer']);
        $parent = $request->integer('parent');
        if ($this->reach->roleOn($parent) === null) {
            throw ValidationException::withMessages(['parent' => 'This branch does not exist.']);
        }
        $this->reach->require(Role::Planner, $parent);
        $branch = DB::transaction(function () use ($request, $parent): Branch {
            Enterprise::lock();
            $name = $this->name($request, $parent);

            return Branch::query()->create(['parent_id' => $parent, 'name' => $name, 'position' => Branch::query()->where('parent_id', $parent)->count()]);
        });

        return new JsonResponse(['id' => $branch->id, 'parent' => $branch->parent_id, 'name' => $branch->name], 201);
    }

    public function update(Request $request, int $branch): JsonResponse
    {
        $this->trim($request);
        $this->reach->requireSeen(Role::Planner, $branch);
        $found = DB::transaction(function () use ($request, $branch): Branch {
            Enterprise::lock();
            $found = Branch::query()->findOrFail($branch);
            $found->update(['name' => $this->name($request, $found->parent_id, $branch)]);

            return $found;
        });

        return new JsonResponse(['id' => $found->id, 'parent' => $found->parent_id, 'name' => $found->name]);
    }

    public function delete(int $branch): Response
    {
        $this->reach->requireSeen(Role::Planner, $branch);
        DB::transaction(static function () use ($branch): void {
            Enterprise::lock();
            $found = Branch::query()->findOrFail($branch);
            $projects = Project::query()->where('branch_id', $branch)->count();
            $branches = Branch::query()->where('parent_id', $branch)->count();
            if ($projects + $branches > 0 || $found->parent_id === null) {
                throw ValidationException::withMessages(['branch' => $found->parent_id === null ? 'The root branch cannot be deleted.'
                    : "The branch still holds {$projects} projects and {$branches} branches; move them first."]);
            }
            $found->delete();
        });

        return new Response(status: 204);
    }

    private function trim(Request $request): void
    {
        if (is_string($request->input('name'))) {
            $request->merge(['name' => trim($request->string('name')->value())]);
        }
    }

    private function name(Request $request, ?int $parent, ?int $except = null): string
    {
        $unique = Rule::unique('branches', 'name')->where('parent_id', $parent);
        /** @var array{name: string} $input */
        $input = $request->validate(['name' => ['required', 'string', 'max:120', new PlainText, $except === null ? $unique : $unique->ignore($except)]],
            ['name.unique' => 'There is a branch with this name already.']);

        return $input['name'];
    }
}
