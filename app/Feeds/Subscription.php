<?php

declare(strict_types=1);

namespace App\Feeds;

use App\Access\Reach;
use App\Models\User;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use stdClass;

/**
 * An address that a calendar or a news reader fetches again and again. Its secret is the sign-in: shown once, stored as a hash,
 * revoked by deleting it. It shows what its owner sees at that moment.
 */
final readonly class Subscription
{
    private function __construct(public int $id, public User $owner, public FeedKind $kind, public ?string $about, public string $name)
    {
    }

    /**
     * @return array<string, mixed> as {@see all()}, with the address
     *
     * @throws ValidationException
     */
    public static function make(Reach $reach, FeedKind $kind, ?string $about): array
    {
        $subject = self::subject($reach, $kind, $about);
        $secret = Str::random(40);
        $id = DB::table('subscriptions')->insertGetId(['user_id' => $reach->user->id, 'secret' => hash('sha256', $secret),
            'kind' => $kind->value, 'about' => $about, 'name' => $subject, 'created_at' => now()]);
        $made = array_values(array_filter(self::all($reach), static fn (array $s): bool => $s['id'] === $id))[0] ?? [];

        return $made + ['address' => url("feeds/{$secret}.{$kind->ending()}")];
    }

    /** @return list<array<string, mixed>> */
    public static function all(Reach $reach): array
    {
        $moment = static fn (mixed $at): ?string => is_string($at) ? Carbon::parse($at)->toIso8601String() : null;

        /** @var list<object{id: int, kind: string, about: string|null, name: string, created_at: string, last_used_at: string|null,
         *     last_used_from: string|null}&stdClass> $rows */
        $rows = DB::table('subscriptions')->where('user_id', $reach->user->id)->orderBy('id')->get()->all();

        return array_map(static fn (stdClass $s): array => ['id' => $s->id, 'kind' => $s->kind,
            'name' => self::called($reach, $s->kind, $s->about, $s->name),
            'created' => $moment($s->created_at), 'lastUsed' => $moment($s->last_used_at), 'lastUsedFrom' => $s->last_used_from], $rows);
    }

    public static function revoke(User $user, int $id): bool
    {
        return DB::table('subscriptions')->where('user_id', $user->id)->where('id', $id)->delete() > 0;
    }

    /** The subscription of a secret, if its owner may still sign in. */
    public static function of(string $secret, string $ending, ?string $from): ?self
    {
        /** @var object{id: int, user_id: int, kind: string, about: string|null, name: string}|null $row */
        $row = DB::table('subscriptions')->where('secret', hash('sha256', $secret))->first();
        $owner = $row === null ? null : User::query()->find($row->user_id);
        $kind = $row === null ? null : FeedKind::tryFrom($row->kind);
        if ($row === null || $owner === null || ! $owner->active || $kind === null || $kind->ending() !== $ending) {
            return null;
        }
        DB::table('subscriptions')->where('id', $row->id)->update(['last_used_at' => now(), 'last_used_from' => $from]);

        return new self($row->id, $owner, $kind, $row->about,
            self::called(Reach::of($owner), $row->kind, $row->about, $row->name));
    }

    /** What is about a project is called what the project is called now, and nothing once that is out of reach. */
    private static function called(Reach $reach, string $kind, ?string $about, string $then): string
    {
        if ($about === null || in_array(FeedKind::tryFrom($kind), [FeedKind::Person, FeedKind::Entry], true)) {
            return $then;
        }
        $name = $reach->limit(DB::table('projects'))->where('uid', $about)->value('name');

        return is_string($name) ? mb_substr($name, 0, 255) : '';
    }

    /** What it is called; says whether there is such a thing within reach. */
    private static function subject(Reach $reach, FeedKind $kind, ?string $about): string
    {
        if ($about === null) {
            return ! $kind->needsSubject() ? '' : throw ValidationException::withMessages(['about' => 'Say whose calendar it is.']);
        }
        $name = match ($kind) {
            FeedKind::Person => trim($about) === '' ? null : $about,
            FeedKind::Entry => DB::table('code_entries as e')->join('code_sets as s', 's.id', '=', 'e.code_set_id')->where('e.uid', $about)
                ->selectRaw("CONCAT(s.name, ': ', e.name) AS name")->value('name'),
            default => $reach->limit(DB::table('projects'))->where('uid', $about)->value('name'),
        };

        return is_string($name) ? mb_substr($name, 0, 255)
            : throw ValidationException::withMessages(['about' => 'There is no such thing that you see.']);
    }
}
