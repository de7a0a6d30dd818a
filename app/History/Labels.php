<?php

declare(strict_types=1);

namespace App\History;

use App\Access\Reach;
use App\Database\Rows;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;

/** What objects are called that a user sees; what is out of reach has no name, like what is not there. */
final class Labels
{
    private const LONGEST = 80;

    /** @var array<string, array<string, string>> kind => uid => label */
    private array $known = [];

    public function __construct(private readonly Reach $reach)
    {
    }

    public function of(EntityKind $kind, string $uid): ?string
    {
        return $this->known[$kind->value][$uid] ?? null;
    }

    public function learn(EntityKind $kind, string $uid, string $label): void
    {
        $this->known[$kind->value][$uid] ??= $label;
    }

    /** @param  array<string, true>  $uids */
    public function expect(EntityKind $kind, array $uids): void
    {
        $missing = array_map(strval(...), array_keys(array_diff_key($uids, $this->known[$kind->value] ?? [])));
        $table = Table::of($kind)->name();
        $columns = array_map(Str::snake(...), $kind->entry()->called);
        if ($columns === []) {
            return;
        }
        foreach (array_chunk($missing, Rows::CHUNK) as $chunk) {
            $query = DB::table($table)->whereIn("{$table}.uid", $chunk);
            if ($kind === EntityKind::Project) {
                $this->reach->limit($query);
            } elseif ($kind === EntityKind::Branch) {
                $query->whereIn('id', $this->reach->branches());
            } elseif ($kind->entry()->owner === Owner::Project) {
                $this->reach->limit($query->join('projects', 'projects.id', '=', "{$table}.project_id"));
            }
            $wanted = array_map(static fn (string $c): string => "{$table}.{$c}", ['uid', ...$columns]);
            foreach ($query->get($wanted) as $row) {
                /** @var array<string, mixed>&array{uid: string} $row */
                $row = (array) $row;
                $this->known[$kind->value][$row['uid']] = self::called($kind, $row) ?? $row['uid'];
            }
        }
    }

    /**
     * What an object is called by its fields.
     *
     * @param  array<string, mixed>  $fields
     */
    public static function called(EntityKind $kind, array $fields): ?string
    {
        $parts = array_map(static fn (string $field): mixed => $fields[$field] ?? '', $kind->entry()->called);
        $label = mb_strimwidth(trim(implode(' ', array_filter($parts, is_string(...)))), 0, self::LONGEST, '…');

        return $label === '' ? null : $label;
    }
}
