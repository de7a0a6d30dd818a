<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\PlainText;
use App\Models\User;
use DateTimeInterface;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Laravel\Sanctum\PersonalAccessToken;

/** Personal tokens for feeds and scripts: shown once, stored as a hash. */
final class TokenController
{
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
        /** @var array{name: string, scopes: list<string>} $input */
        $input = $request->validate(['name' => ['required', 'string', 'max:120', new PlainText], 'scopes' => 'required|array|min:1',
            'scopes.*' => 'in:feed,read,write']);
        $token = $user->createToken($input['name'], array_values(array_unique($input['scopes'])));

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
            'created' => $moment($token->getAttribute('created_at')), 'lastUsed' => $moment($token->getAttribute('last_used_at'))];
    }
}
