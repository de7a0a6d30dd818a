<?php

declare(strict_types=1);

namespace App\OData;

use App\Models\User;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/**
 * What a client was told, so that later only what is different has to be told (Protocol 4.01, section 11.3): of each row its key and
 * a hash of the properties that were asked for. Kept until the client comes
 * back with a delta link that it got later, or for a week.
 */
final readonly class Tracked
{
    private const DAYS = 7;

    /**
     * @param  array<string, string>  $raw  options
     * @param  array<string, array{string, array<string, string>}>  $parts  project, or '' for everything => what its rows followed from,
     *     and key => hash of each row
     */
    private function __construct(public string $token, public string $set, public array $raw, public array $parts, private int $id,
        private ?int $base, private bool $isPage)
    {
    }

    /**
     * @param  array<string, string>  $raw
     * @param  array<string, array{string, array<string, string>}>  $parts
     * @param  self|null  $before  what this goes on from
     * @param  bool  $isPage  not yet all that is different: the client keeps the link that it began with
     */
    public static function keep(User $user, string $set, array $raw, array $parts, ?self $before = null, bool $isPage = false): self
    {
        $token = Str::random(32);
        $base = $before === null ? null : ($before->isPage ? $before->base : $before->id);
        if ($before !== null && ! $before->isPage && $before->base !== null) { // the client has it: not what it went on from, and the way
            DB::table('feed_states')->where('id', '<>', $before->id)
                ->where(static fn (Builder $q): Builder => $q->where('id', $before->base)->orWhere('base_id', $before->base))->delete();
        }
        $id = DB::table('feed_states')->insertGetId(['token' => hash('sha256', $token), 'user_id' => $user->id, 'set' => $set,
            'options' => json_encode((object) $raw, JSON_THROW_ON_ERROR), 'base_id' => $base, 'is_page' => $isPage, 'created_at' => now(),
            'rows' => (string) gzcompress(json_encode((object) $parts, JSON_THROW_ON_ERROR), 1)]);

        return new self($token, $set, $raw, $parts, $id, $base, $isPage);
    }

    public static function find(User $user, string $set, string $token): self
    {
        /** @var object{id: int, options: string, rows: string, base_id: int|null, is_page: int}|null $state */
        $state = DB::table('feed_states')->where('token', hash('sha256', $token))->where('user_id', $user->id)->where('set', $set)->first();
        if ($state === null) {
            throw new ODataError(410, 'This delta link is no longer kept; read the set again.', '$deltatoken');
        }
        $raw = $parts = [];
        foreach (self::decode($state->options) as $name => $text) {
            is_string($text) && $raw[(string) $name] = $text;
        }
        foreach (self::decode((string) gzuncompress($state->rows)) as $part => $told) {
            /** @var array{string, array<string, string>} $told */
            $parts[(string) $part] = $told;
        }

        return new self($token, $set, $raw, $parts, $state->id, $state->base_id, $state->is_page === 1);
    }

    public static function forgetOld(): void
    {
        DB::table('feed_states')->where('created_at', '<', now()->subDays(self::DAYS))->delete();
    }

    /** @param  array<string, mixed>  $row */
    public static function hash(array $row): string
    {
        return hash('xxh3', json_encode($row, JSON_THROW_ON_ERROR));
    }

    /** @return array<array-key, mixed> */
    private static function decode(string $json): array
    {
        $values = json_decode($json, true);

        return is_array($values) ? $values : [];
    }
}
