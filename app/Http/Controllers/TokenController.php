<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\FeedScope;
use App\Access\Reach;
use App\Http\PlainText;
use App\Models\User;
use App\OData\Model;
use DateTimeInterface;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Laravel\Sanctum\PersonalAccessToken;

/** Personal tokens for feeds and scripts: shown once, stored as a hash. */
final class TokenController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(Request $request): JsonResponse
    {
        /** @var User $user */
        $user = $request->user();

        return new JsonResponse(['tokens' => $user->tokens()->orderBy('id')->get()->map($this->shape(...))->all()]);
    }

    public function create(Request $request): JsonResponse
    {
        /** @var User $user */
        $user = $request->user();
        /** @var array{name: string, scopes: list<string>, branch?: string|null, sets?: list<string>|null, expires?: string|null} $input */
        $input = $request->validate(['name' => ['required', 'string', 'max:120', new PlainText], 'scopes' => 'required|array|min:1',
            'scopes.*' => 'in:feed,read,write', 'branch' => 'nullable|string', 'sets' => 'nullable|array|min:1',
            'sets.*' => Rule::in(array_keys(Model::sets())), 'expires' => ['bail', 'nullable', 'string', 'date_format:Y-m-d',
                'after:today']]);
        $isNarrow = isset($input['branch']) || isset($input['sets']);
        if ($isNarrow && $input['scopes'] !== ['feed']) {
            throw ValidationException::withMessages(['branch' => 'Only a token for feeds alone is limited to a branch or to sets.']);
        }
        $branch = isset($input['branch']) ? $this->reach->branch($input['branch']) : null;
        if (isset($input['branch']) && $branch === null) {
            throw ValidationException::withMessages(['branch' => 'There is no such branch.']);
        }
        $token = $user->createToken($input['name'], array_values(array_unique($input['scopes'])),
            isset($input['expires']) ? Carbon::parse($input['expires'])->endOfDay() : null);
        $token->accessToken->forceFill(['branch_id' => $branch,
            'sets' => isset($input['sets']) ? json_encode(array_values(array_unique($input['sets'])), JSON_THROW_ON_ERROR) : null])->save();

        return new JsonResponse(['token' => $token->plainTextToken] + $this->shape($token->accessToken), 201);
    }

    public function delete(Request $request, int $id): Response
    {
        /** @var User $user */
        $user = $request->user();
        abort_if($user->tokens()->whereKey($id)->delete() === 0, 404);

        return new Response(status: 204);
    }

    /** @return array<string, mixed> */
    private function shape(PersonalAccessToken $token): array
    {
        $moment = static fn (mixed $at): ?string => $at instanceof DateTimeInterface ? $at->format(DATE_ATOM) : null;

        return ['id' => $token->getKey(), 'name' => $token->getAttribute('name'), 'scopes' => $token->getAttribute('abilities'),
            'created' => $moment($token->getAttribute('created_at')), 'lastUsed' => $moment($token->getAttribute('last_used_at')),
            'lastUsedFrom' => $token->getAttribute('last_used_from'), 'expires' => $moment($token->getAttribute('expires_at')),
            'branch' => $token->getAttribute('branch_id') === null ? null
                : DB::table('branches')->where('id', $token->getAttribute('branch_id'))->value('name'),
            'sets' => FeedScope::setsOf($token)];
    }
}
