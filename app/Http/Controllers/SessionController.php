<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Attempts;
use App\Access\Reach;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Plan\Role;

/** Sign-in, sign-out, and who is signed in. */
final class SessionController
{
    /** Failed attempts per minute, on one account from anywhere. */
    private const ATTEMPTS = 5;

    /** The same from one address, on whatever accounts. */
    private const FROM_ADDRESS = 60;

    public function show(): JsonResponse
    {
        $user = Auth::guard('web')->user();

        return new JsonResponse(['user' => $user instanceof User ? $this->user($user) : null, 'demo' => $user === null
            && config('reihe.demo') === true ? $this->demo() : []]);
    }

    public function create(Request $request): JsonResponse
    {
        /** @var array{email: string, password: string} $input */
        $input = $request->validate(['email' => 'required|email|max:255', 'password' => 'required|string|max:255']);
        $email = User::address($input['email']);
        // failed attempts are counted by account and by address; a success forgets those on the account
        $throttle = "sign-in:{$email}";
        Attempts::count("sign-in-from:{$request->ip()}", self::FROM_ADDRESS);
        Attempts::count($throttle, self::ATTEMPTS);
        $found = User::query()->where('email', $email)->first();
        $matches = Hash::check($input['password'], $found->password ?? $this->nobodysPassword());
        if ($found === null || ! $matches || ! $found->active) {
            throw ValidationException::withMessages(['email' => 'There is no user with this e-mail and password.']);
        }
        Attempts::forget($throttle);
        Attempts::takeBack("sign-in-from:{$request->ip()}");
        Auth::guard('web')->login($found);
        $request->session()->regenerate();
        $user = Auth::guard('web')->user();

        return new JsonResponse(['user' => $user instanceof User ? $this->user($user) : null, 'demo' => []]);
    }

    /** One's own password; other sessions and all tokens end. */
    public function password(Request $request): Response
    {
        /** @var array{current: string, password: string} $input */
        $input = $request->validate(['current' => 'required|string|max:255', 'password' => 'required|string|min:10|max:255']);
        /** @var User $user */
        $user = $request->user();
        $throttle = "password:{$user->id}";
        Attempts::count($throttle, self::ATTEMPTS);
        if (! Hash::check($input['current'], $user->password)) {
            throw ValidationException::withMessages(['current' => 'This is not your present password.']);
        }
        Attempts::forget($throttle);
        if ($input['current'] === $input['password']) {
            throw ValidationException::withMessages(['password' => 'This is your present password; choose another one.']);
        }
        $user->update(['password' => $input['password'], 'must_change' => false]);
        Auth::guard('web')->login($user);
        $request->session()->regenerate();

        return new Response(status: 204);
    }

    public function delete(Request $request): Response
    {
        Auth::guard('web')->logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return new Response(status: 204);
    }

    /** A hash that nothing matches: an unknown name takes as long as a wrong password. */
    private function nobodysPassword(): string
    {
        return Cache::rememberForever('nobodys-password', static fn (): string => Hash::make(Str::random(40)));
    }

    /** @return array<string, mixed> */
    private function user(User $user): array
    {
        $reach = Reach::of($user);

        return ['id' => $user->id, 'name' => $user->name, 'email' => $user->email,
            'plans' => $reach->mayAnywhere(Role::Planner), 'administers' => $reach->mayAnywhere(Role::Administrator),
            'mustChange' => $user->must_change];
    }

    /** @return list<array<string, string>> the demo users, whose password is no secret */
    private function demo(): array
    {
        return array_values(User::query()->where('demo', true)->orderBy('id')->get()
            ->map(static fn (User $u): array => ['name' => $u->name, 'email' => $u->email, 'password' => \App\Demo\DemoUsers::PASSWORD,
                'role' => \App\Demo\DemoUsers::role($u)])->all());
    }
}
