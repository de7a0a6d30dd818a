<?php

declare(strict_types=1);

namespace App\Board;

use App\Database\Rows;
use Illuminate\Support\Facades\DB;

/** What activities have in own fields, as stored; and what formulas give, where SQL can read it. */
final readonly class OwnValues
{
    /**
     * Values that were typed.
     *
     * @param  string  $where  condition on projects p
     * @return array<int, array<string, array{uid: string, value: string}>> activity id => uid of the field => value
     */
    public static function typed(string $where): array
    {
        $typed = [];
        foreach (Rows::all("SELECT o.activity_id, f.uid, o.uid, o.value FROM own_values o JOIN own_fields f ON f.id = o.field_id
            JOIN projects p ON p.id = o.project_id WHERE o.activity_id IS NOT NULL AND {$where}") as $row) {
            /** @var array{int, string, string, string} $row */
            $typed[$row[0]][$row[1]] = ['uid' => $row[2], 'value' => $row[3]];
        }

        return $typed;
    }

    /**
     * Makes what formulas give readable in SQL, for this connection only.
     *
     * @param  array<int, array<string, string>>  $values  activity id => uid of the field => value
     * @param  array<string, int>  $fields  uid of the field => id
     */
    public static function table(array $values, array $fields): void
    {
        DB::unprepared('CREATE TEMPORARY TABLE IF NOT EXISTS formula_values (activity_id BIGINT UNSIGNED, field_id BIGINT UNSIGNED,
            value VARCHAR(500), PRIMARY KEY (activity_id, field_id))');
        DB::unprepared('DELETE FROM formula_values');
        $rows = [];
        foreach ($values as $activity => $of) {
            foreach ($of as $field => $value) {
                $rows[] = ['activity_id' => $activity, 'field_id' => $fields[$field], 'value' => mb_substr($value, 0, 500)];
            }
        }
        foreach (array_chunk($rows, Rows::CHUNK) as $chunk) {
            DB::table('formula_values')->insert($chunk);
        }
    }
}
