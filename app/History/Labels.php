<?php

declare(strict_types=1);

namespace App\History;

use App\Access\Reach;
use App\Planning\Rows;
use App\Planning\Tables\Table;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Owner;

/** What objects are called that a user sees; what is out of reach has no name, like what is not there. */
final class Labels
{
    /** @var array<string, array<string, string>> kind => uid => label */
    private array $known = [];

    public function __construct(private readonly Reach $reach)
    {
    }

    public function of(EntityKind $kind, string $uid): ?string
    {
        return $this->known[$kind->value][$uid] ?? null;
    }

    /** @param  array<string, true>  $uids */
    public function expect(EntityKind $kind, array $uids): void
    {
        $missing = array_map(strval(...), array_keys(array_diff_key($uids, $this->known[$kind->value] ?? [])));
        $table = Table::of($kind)->name();
        $columns = array_values(array_intersect(['key', 'code', 'name'], self::columns($table)));
        if (! in_array('name', $columns, true)) {
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
     * What an object is called by its fields: code or key, and name.
     *
     * @param  array<string, mixed>  $fields
     */
    public static function called(EntityKind $kind, array $fields): ?string
    {
        $parts = match ($kind) {
            EntityKind::Activity, EntityKind::Wbs => [$fields['code'] ?? '', $fields['name'] ?? ''],
            EntityKind::Project => [$fields['key'] ?? '', $fields['name'] ?? ''],
            EntityKind::Remark => [mb_strimwidth(is_string($fields['text'] ?? null) ? $fields['text'] : '', 0, 80, '…')],
            default => [$fields['name'] ?? ''],
        };
        $label = trim(implode(' ', array_filter($parts, is_string(...))));

        return $label === '' ? null : $label;
    }

    /** @return list<string> */
    private static function columns(string $table): array
    {
        /** @var array<string, list<string>> $columns */
        static $columns = [];

        return $columns[$table] ??= Schema::getColumnListing($table);
    }
}
