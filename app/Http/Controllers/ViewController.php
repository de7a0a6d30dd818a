<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Http\PlainText;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Database\Query\Builder;
use Illuminate\Database\Query\JoinClause;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;

/** Saved views: a name for how rows are filtered, grouped and sorted; one's own, and those that others share. */
final class ViewController
{
    /** table: recipes of how tables are read */
    private const PLACES = ['portfolio', 'board', 'table', 'export'];

    private const LONGEST = 8000;

    private const MOST = 200;

    public function __construct(private readonly Reach $reach)
    {
    }

    public function index(Request $request): JsonResponse
    {
        /** @var array{place: string} $input */
        $input = $request->validate(['place' => ['required', Rule::in(self::PLACES)]]);
        $views = DB::table('views')->join('users', 'users.id', '=', 'views.user_id')->where('views.place', $input['place'])
            ->where(fn (Builder $q): Builder => $q->where('shared', true)->orWhere('views.user_id', $this->reach->user->id))
            ->orderBy('views.name')->orderBy('views.id')->leftJoin('first_views', fn (JoinClause $j) => $j->on('first_views.view_id', '=',
                'views.id')->where('first_views.user_id', $this->reach->user->id))
            ->get(['views.*', 'users.name as author', 'first_views.view_id as first']);

        return new JsonResponse(['views' => $views->map($this->shown(...))->all()]);
    }

    public function create(Request $request): JsonResponse
    {
        /** @var array{place: string, definition: array<string, mixed>} $input */
        $input = $request->validate(['place' => ['required', Rule::in(self::PLACES)], 'definition' => 'required|array',
            'shared' => 'boolean']);
        abort_if(DB::table('views')->where('user_id', $this->reach->user->id)->count() >= self::MOST, 422,
            'You have '.self::MOST.' views already; delete one first.');
        $uid = (string) Str::ulid();
        DB::table('views')->insert(['uid' => $uid, 'user_id' => $this->reach->user->id, 'place' => $input['place'],
            'name' => PlainText::title($request, 'name', 120), 'shared' => $request->boolean('shared'),
            'definition' => $this->written($input['definition'])]);

        return new JsonResponse($this->one($uid), 201);
    }

    /** A view, one's own or a shared one, that the place opens with for this user; or none. */
    public function first(Request $request, string $uid): JsonResponse
    {
        $view = DB::table('views')->where('uid', $uid)->first(['id', 'user_id', 'shared', 'place']);
        abort_if($view === null || ($view->user_id !== $this->reach->user->id && ! $view->shared), 404);
        /** @var \stdClass&object{id: int, place: string} $view */
        $row = ['user_id' => $this->reach->user->id, 'place' => $view->place];
        $request->validate(['first' => 'required|boolean']);
        DB::table('first_views')->where($row)->delete();
        if ($request->boolean('first')) {
            DB::table('first_views')->insertOrIgnore($row + ['view_id' => $view->id]);
        }

        return new JsonResponse($this->one($uid));
    }

    public function update(Request $request, string $uid): JsonResponse
    {
        $this->own($uid);
        /** @var array{definition?: array<string, mixed>} $input */
        $input = $request->validate(['definition' => 'array', 'shared' => 'boolean']);
        $new = ($request->has('name') ? ['name' => PlainText::title($request, 'name', 120)] : [])
            + ($request->has('shared') ? ['shared' => $request->boolean('shared')] : [])
            + (isset($input['definition']) ? ['definition' => $this->written($input['definition'])] : []);
        $new === [] ?: DB::table('views')->where('uid', $uid)->update($new);

        return new JsonResponse($this->one($uid));
    }

    public function delete(string $uid): Response
    {
        $this->own($uid);
        DB::table('views')->where('uid', $uid)->delete();

        return new Response(status: 204);
    }

    /** @param  array<string, mixed>  $definition */
    private function written(array $definition): string
    {
        $text = json_encode($definition, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE);
        abort_if(strlen($text) > self::LONGEST, 422, 'This view is too long.');

        return $text;
    }

    /** @throws AuthorizationException for a view that somebody else shares */
    private function own(string $uid): void
    {
        $view = DB::table('views')->where('uid', $uid)->first(['user_id', 'shared']);
        $isOwn = $view !== null && $view->user_id === $this->reach->user->id;
        abort_if($view === null || (! $isOwn && ! $view->shared), 404);
        $isOwn ?: throw new AuthorizationException('This view belongs to somebody else.');
    }

    /** @return array<string, mixed> */
    private function one(string $uid): array
    {
        return $this->shown(DB::table('views')->join('users', 'users.id', '=', 'views.user_id')
            ->leftJoin('first_views', fn (JoinClause $j) => $j->on('first_views.view_id', '=', 'views.id')
                ->where('first_views.user_id', $this->reach->user->id))->where('views.uid', $uid)
            ->firstOrFail(['views.*', 'users.name as author', 'first_views.view_id as first']));
    }

    /** @return array<string, mixed> */
    private function shown(\stdClass $view): array
    {
        return ['uid' => $view->uid, 'name' => $view->name, 'shared' => (bool) $view->shared,
            'author' => $view->author, 'own' => $view->user_id === $this->reach->user->id, 'first' => $view->first !== null,
            'definition' => json_decode(is_string($view->definition) ? $view->definition : '{}')];
    }
}
