<?php

declare(strict_types=1);

namespace App\Problems;

use App\Access\Reach;
use App\Database\DatabaseState;
use App\OData\ODataError;
use App\Planning\Busy;
use App\Planning\Decided;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Database\QueryException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\ValidationException;
use PDOException;
use Reihe\Core\Calendar\InvalidCalendar;
use Reihe\Core\Change\Clash;
use Reihe\Core\Change\Conflict;
use Reihe\Core\Change\InvalidOperation;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\InvalidPlan;
use Reihe\Core\Plan\Owner;
use Reihe\Core\Schedule\LoopFound;
use Reihe\Core\Selection\InvalidSelection;
use Reihe\Formats\FormatError;
use Symfony\Component\HttpKernel\Exception\AccessDeniedHttpException;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Throwable;

/** Errors as problem documents (RFC 9457), with a JSON pointer to the field where there is one. */
final class Problem
{
    /** MariaDB: lock wait timeout, deadlock, duplicate key, foreign key (both ways) */
    private const COLLISIONS = [1205, 1213, 1062, 1452, 1451];

    public static function render(Throwable $e, Request $request): ?JsonResponse
    {
        return $request->is('api/*') ? self::of($e) : null;
    }

    /** @return array<string, mixed>|null what a job that failed says */
    public static function document(Throwable $e): ?array
    {
        /** @var array<string, mixed>|null */
        return self::of($e)?->getData(true);
    }

    private static function of(Throwable $e): ?JsonResponse
    {
        if ($e instanceof QueryException && in_array($e->errorInfo[1] ?? null, self::COLLISIONS, true)) {
            $e = new Busy($e); // somebody else was quicker, wherever that was
        }

        $state = $e instanceof PDOException ? DatabaseState::of($e) : null;
        if ($state !== null) {
            return self::make($state->status(), $state->value, $state->message());
        }

        return match (true) {
            $e instanceof ValidationException => self::make(422, 'invalid', collect($e->errors())->flatten()->first() ?? 'invalid', [
                'errors' => collect($e->errors())
                    ->map(static fn (mixed $messages,
                        int|string $field): array => ['pointer' => '/'.str_replace('.', '/', (string) $field),
                            'detail' => is_array($messages) ? $messages[0] : $messages])->values()->all(),
            ]),
            $e instanceof AuthenticationException => self::make(401, 'signed-out', 'Please sign in.'),
            $e instanceof AuthorizationException, $e instanceof AccessDeniedHttpException => self::make(403, 'forbidden', $e->getMessage()),
            $e instanceof Clash => self::clash($e),
            $e instanceof Busy => self::make(409, 'busy', $e->getMessage()),
            $e instanceof Decided => self::make(409, 'decided', $e->getMessage(), ['state' => $e->changeSet->state]),
            $e instanceof InvalidOperation => self::make(422, 'invalid', ucfirst($e->field === null ? $e->why : "{$e->field}: {$e->why}"),
                ['errors' => [['pointer' => self::pointer($e), 'detail' => $e->why]]]),
            $e instanceof LoopFound => self::loop($e),
            $e instanceof InvalidPlan => self::plan($e),
            $e instanceof InvalidSelection => self::make(422, 'invalid', ucfirst($e->getMessage()),
                ['errors' => [['pointer' => $e->pointer === '' ? '/view' : $e->pointer, 'detail' => $e->why]]]),
            $e instanceof InvalidField => self::make(422, 'invalid', $e->getMessage(),
                ['errors' => [['pointer' => '/'.str_replace(['~', '/'], ['~0', '~1'], $e->field), 'detail' => $e->why]]]),
            $e instanceof InvalidCalendar => self::make(422, 'invalid', $e->getMessage()),
            $e instanceof FormatError => self::make(422, 'file', $e->getMessage(), ['line' => $e->fileLine]
                + ($e->all === [] ? [] : ['complaints' => $e->all])),
            $e instanceof ODataError => self::make($e->status, 'feed', $e->getMessage()),
            $e instanceof HttpExceptionInterface => self::make($e->getStatusCode(), 'http',
                $e->getStatusCode() === 404 ? 'Not found.' : ($e->getMessage() ?: 'The request could not be answered.'),
                headers: $e->getHeaders()),
            default => config('app.debug') === true ? null
                : self::make(500, 'server', 'Something went wrong on the server; nothing was changed.'),
        };
    }

    /** Is a complaint of the core one that {@see render()} has words for? */
    public static function isAnswered(Throwable $e): bool
    {
        return $e instanceof Clash || $e instanceof InvalidOperation || $e instanceof LoopFound || $e instanceof InvalidPlan
            || $e instanceof InvalidSelection || $e instanceof InvalidCalendar || $e instanceof InvalidField;
    }

    /**
     * All conflicts with both values. Those with what lies out of reach are only counted: a draft may hold what somebody else put
     * there, or what its author saw under a role that is gone.
     */
    private static function clash(Clash $e): JsonResponse
    {
        $own = app(Reach::class)->projects();
        $seen = array_values(array_filter($e->conflicts, static fn (Conflict $c): bool => array_diff_key(array_flip($c->projects), $own)
            === [] && ($c->projects !== [] || $c->kind->entry()->owner === Owner::Enterprise || $c->field === null)));
        $hidden = count($e->conflicts) - count($seen);

        return self::make(409, 'clash', $seen === [] ? 'Something that you have no access to was changed by somebody else in the meantime.'
            : (new Clash($seen))->getMessage(), [
                'hidden' => $hidden,
                'conflicts' => array_map(static fn (Conflict $c): array => [
                    'kind' => $c->kind->value, 'uid' => $c->uid, 'label' => $c->label, 'field' => $c->field,
                    'seen' => $c->seen, 'yours' => $c->yours, 'theirs' => $c->theirs,
                ], $seen),
                'errors' => array_map(static fn (Conflict $c): array => [
                    'pointer' => "/operations/{$c->position}".($c->field === null ? '' : "/after/{$c->field}"),
                    'detail' => "{$c->label}: ".($c->field ?? 'it').' was changed by somebody else in the meantime',
                ], $seen),
            ]);
    }

    private static function pointer(InvalidOperation $e): string
    {
        $inside = $e->list === 'operations' ? 'after/' : '';

        return "/{$e->list}/{$e->position}".($e->field === null ? '' : "/{$inside}".str_replace(['~', '/'], ['~0', '~1'], $e->field));
    }

    /** What does not fit may lie in a project that the user may not see: then nothing of it is told. */
    private static function plan(InvalidPlan $e): JsonResponse
    {
        if (in_array($e->kind, [EntityKind::Activity, EntityKind::Project, EntityKind::Link], true)) {
            $reach = app(Reach::class);
            foreach (preg_split('/ (?:FS|SS|FF|SF) /', $e->label) ?: [] as $label) {
                if (! $reach->sees($label) && str_contains($e->getMessage(), $label) && ! $reach->isFree($label)) {
                    return self::make(422, 'invalid', 'This does not fit together with a linked project that you have no access to.');
                }
            }
        }

        return self::make(422, 'invalid', $e->getMessage(), ['kind' => $e->kind->value, 'uid' => $e->uid, 'field' => $e->field]);
    }

    /** Activities of projects that the user may not see stay unnamed. */
    private static function loop(LoopFound $e): JsonResponse
    {
        $reach = app(Reach::class);
        $chain = array_map(static fn (string $label): string => $reach->sees($label) ? $label : '(another project)', $e->chain);

        return self::make(422, 'loop', 'These links close a loop: '.implode(' → ', [...$chain, $chain[0]]), ['chain' => $chain]);
    }

    /**
     * @param  array<string, mixed>  $more
     * @param  array<array-key, mixed>  $headers
     */
    private static function make(int $status, string $type, mixed $detail, array $more = [], array $headers = []): JsonResponse
    {
        return new JsonResponse(['type' => "urn:reihe:problem:{$type}", 'title' => ucfirst($type), 'status' => $status,
            'detail' => $detail] + $more,
            $status, ['Content-Type' => 'application/problem+json'] + array_filter($headers, is_scalar(...)),
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }
}
