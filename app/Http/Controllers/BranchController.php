<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Access\Role;
use App\Models\Branch;
use App\Models\Project;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
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
        $parent = $request->integer('parent');
        $this->reach->require(Role::Planner, $parent);
        /** @var array{name: string} $input */
        $input = $request->validate(['parent' => 'required|integer', 'name' => ['required', 'string', 'max:120', Rule::unique('branches', 'name')->where('parent_id', $parent)]],
            ['name.unique' => 'There is a branch with this name already.']);
        $branch = Branch::query()->create(['parent_id' => $parent, 'name' => $input['name'], 'position' => Branch::query()->where('parent_id', $parent)->count()]);

        return new JsonResponse(['id' => $branch->id, 'parent' => $branch->parent_id, 'name' => $branch->name], 201);
    }

    public function update(Request $request, Branch $branch): JsonResponse
    {
        $this->reach->require(Role::Planner, $branch->id);
        /** @var array{name: string} $input */
        $input = $request->validate(['name' => ['required', 'string', 'max:120', Rule::unique('branches', 'name')->where('parent_id', $branch->parent_id)->ignore($branch->id)]],
            ['name.unique' => 'There is a branch with this name already.']);
        $branch->update($input);

        return new JsonResponse(['id' => $branch->id, 'parent' => $branch->parent_id, 'name' => $branch->name]);
    }

    public function delete(Branch $branch): Response
    {
        $this->reach->require(Role::Planner, $branch->id);
        $projects = Project::query()->where('branch_id', $branch->id)->count();
        $branches = Branch::query()->where('parent_id', $branch->id)->count();
        if ($projects + $branches > 0 || $branch->parent_id === null) {
            throw ValidationException::withMessages(['branch' => $branch->parent_id === null ? 'The root of the hierarchy stays.' : "The branch still holds {$projects} projects and {$branches} branches; move them first."]);
        }
        $branch->delete();

        return new Response(status: 204);
    }
}
