<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Feeds\AtomFeed;
use App\Feeds\CalendarFeed;
use App\Feeds\FeedKind;
use App\Feeds\Subscription;
use App\Http\PlainText;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;

/** Subscriptions: made and revoked by those who are signed in, fetched by whoever has the address. */
final class SubscriptionController
{
    public function index(Reach $reach): JsonResponse
    {
        return new JsonResponse(['subscriptions' => Subscription::all($reach)]);
    }

    public function create(Request $request, Reach $reach): JsonResponse
    {
        /** @var array{kind: string, about?: string|null} $input */
        $input = $request->validate(['kind' => ['required', Rule::enum(FeedKind::class)],
            'about' => ['nullable', 'string', 'max:255', new PlainText]]);

        return new JsonResponse(Subscription::make($reach, FeedKind::from($input['kind']), $input['about'] ?? null), 201);
    }

    public function delete(Reach $reach, int $id): Response
    {
        abort_if(! Subscription::revoke($reach->user, $id), 404);

        return new Response(status: 204);
    }

    public function fetch(Request $request, string $secret, string $ending): Response
    {
        $subscription = Subscription::of($secret, $ending, $request->ip());
        if ($subscription === null) {
            return new Response("There is no such feed; it may have been revoked.\n", 404, ['Content-Type' => 'text/plain']);
        }
        $reach = Reach::of($subscription->owner);
        $response = new Response($subscription->kind->isCalendar() ? (new CalendarFeed($reach))->of($subscription)
            : (new AtomFeed($reach))->of($subscription, url("feeds/{$secret}.{$ending}")), 200, [
                'Content-Type' => $subscription->kind->isCalendar() ? 'text/calendar; charset=utf-8'
                    : 'application/atom+xml; charset=utf-8',
                'Cache-Control' => 'private, max-age=300', 'Content-Disposition' => "inline; filename=\"reihe.{$ending}\""]);
        $response->setEtag(hash('xxh3', (string) $response->getContent()), true);
        $response->isNotModified($request);

        return $response;
    }
}
