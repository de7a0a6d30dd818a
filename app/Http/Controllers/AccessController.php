<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Access\Shift;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Plan\Role;

/** What moving something in the hierarchy does to access, for those who may move it. */
final class AccessController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function shift(Request $request): JsonResponse
    {
        /** @var array{kind: string, uid: string, to: string} $input */
        $input = $request->validate(['kind' => ['required', Rule::in(['branch', 'project', 'merge'])], 'uid' => 'required|string',
            'to' => 'required|string']);
        $moves = $input['kind'] === 'branch';
        $to = $this->reach->branch($input['to']) ?? throw ValidationException::withMessages(['to' => 'This branch does not exist.']);
        $found = $input['kind'] !== 'project' ? $this->reach->branch($input['uid'])
            : $this->reach->limit(DB::table('projects'))->where('uid', $input['uid'])->value('branch_id');
        abort_if(! is_int($found), 404);
        $needed = $moves ? Role::Administrator : Role::Planner;
        $this->reach->require($needed, $found);
        $this->reach->require($needed, $to);
        $paths = DB::table('branches')->whereIn('id', [$found, $to])->pluck('path', 'id');
        $here = is_string($paths[$found]) ? $paths[$found] : '';
        $above = $moves ? (string) preg_replace('~\d+/$~', '', $here) : $here;

        return new JsonResponse(['people' => Shift::between($above, is_string($paths[$to]) ? $paths[$to] : '', $moves ? $here : null)]);
    }
}
