<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Board\BoardColumn;
use App\Board\BoardTable;
use Illuminate\Console\Command;
use Reihe\Core\Plan\Computed;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Field;
use Reihe\Core\Plan\FieldType;
use Reihe\Core\Plan\Owner;
use Reihe\Formats\PlanXml\Reference;

/** Writes what the API description and the field reference say about fields, from the catalogue of fields. */
final class Catalogue extends Command
{
    private const BEGIN = '    # from the catalogue of fields: php artisan reihe:catalogue';

    private const END = '    # end of the catalogue of fields';

    protected $signature = 'reihe:catalogue {--check : only tell whether the documents are up to date}';

    protected $description = 'Write what documents and front end say of fields and rows from their catalogue';

    public function handle(): int
    {
        $stale = [];
        $schema = base_path('docs/openapi.yaml');
        $files = [base_path('docs/fields.md') => self::reference(), base_path('docs/plan-xml.md') => Reference::markdown(),
            $schema => self::described((string) file_get_contents($schema)), resource_path('js/api/shown.ts') => self::shown()];
        foreach ($files as $file => $text) {
            if (! is_file($file) || file_get_contents($file) !== $text) {
                $stale[] = basename($file);
                $this->option('check') || file_put_contents($file, $text);
            }
        }
        $this->info($stale === [] ? 'Up to date.'
            : implode(', ', $stale).($this->option('check') ? ' must be written again.' : ' written.'));

        return $stale !== [] && $this->option('check') ? self::FAILURE : self::SUCCESS;
    }

    public static function reference(): string
    {
        $text = "# Fields\n\nEvery field of every kind of object, written by `php artisan reihe:catalogue` from the catalogue of fields "
            ."(`core/src/Plan`).\nThe written form (operations, API, undo) has the stored ones under these names; dates are ISO 8601 "
            ."local text, durations\nand work whole minutes. *May be empty* means null. The role is the least one that writes the field.\n";
        foreach (EntityKind::cases() as $kind) {
            $entry = $kind->entry();
            $text .= "\n## {$kind->value}\n\n".ucfirst($entry->noun).', '.($entry->owner === Owner::Enterprise ? 'belongs to the enterprise'
                : 'belongs to a project')
                .($entry->naturalKey === [] ? ''
                    : '; unique: '.implode(' + ', array_map(static fn (string $f): string => "`{$f}`", $entry->naturalKey))).".\n\n"
                ."| field | type | range | may be empty | role | meaning |\n|---|---|---|---|---|---|\n";
            foreach ($kind->fields() as $field) {
                $text .= self::row($field, $field->stamp === null ? $field->role : 'filled in');
            }
            foreach (Computed::of($kind) as $field) {
                $text .= self::row($field, 'computed');
            }
        }

        return $text;
    }

    private static function row(Field $field, string $role): string
    {
        $range = match (true) {
            $field->type === FieldType::Choice => implode(', ', $field->choices()),
            $field->type === FieldType::Items => implode(', ', array_keys($field->items())),
            $field->to !== null => $field->to,
            in_array($field->type, [FieldType::Text, FieldType::Title, FieldType::Code], true) => $field->computed ? ''
                : 'up to '.($field->max ?? 255).' characters',
            $field->min !== null || $field->max !== null => ($field->min ?? '…').' … '.($field->max ?? '…'),
            default => '',
        };
        $type = $field->type->value.($field->unit === null ? '' : " ({$field->unit})");

        return "| `{$field->name}` | {$type} | {$range} | ".($field->nullable ? 'yes' : '')." | {$role} | {$field->meaning} |\n";
    }

    public static function described(string $document): string
    {
        $begin = strpos($document, self::BEGIN);
        $end = strpos($document, self::END);
        if ($begin === false || $end === false) {
            throw new \LogicException('docs/openapi.yaml has no place for the fields');
        }
        $yaml = self::BEGIN."\n    EntityKind: { enum: [".implode(', ', EntityKind::names())."] }\n";
        foreach (EntityKind::cases() as $kind) {
            $yaml .= '    '.ucfirst($kind->value)."Fields:\n      type: object\n      properties:\n";
            foreach ($kind->fields() as $field) {
                $yaml .= "        {$field->name}: ".self::schema($field)."\n";
            }
        }

        $any = static fn (EntityKind $kind): string => "        - { \$ref: '#/components/schemas/".ucfirst($kind->value)."Fields' }\n";
        $yaml .= "    AnyFields:\n      anyOf:\n".implode('', array_map($any, EntityKind::cases()));

        foreach (BoardTable::cases() as $table) {
            $yaml .= self::rows($table);
        }

        return substr($document, 0, $begin).$yaml.substr($document, $end);
    }

    /** A list of rows of boards; projects are objects, which say what the user may do besides. */
    private static function rows(BoardTable $table): string
    {
        $isList = $table !== BoardTable::Projects;
        $yaml = '    '.$table->schema().":\n      type: object\n      required: [".implode(', ', $table->names())
            .($isList ? '' : ', role, mayPlan, mayReport')."]\n      properties:\n";
        foreach ($table->columns() as $column) {
            $value = self::value($column->field, $column->nullable, ! $isList && $column->name === 'archived');
            $meaning = str_replace("'", "''", $column->name === 'uid' ? 'Uid.' : $column->field->meaning);
            $yaml .= "        {$column->name}: { ".($isList ? "type: array, items: { {$value} }"
                : $value).", description: '{$meaning}' }\n";
        }

        return $yaml.($isList ? '' : "        role: { \$ref: '#/components/schemas/Role' }\n        mayPlan: { type: boolean }\n"
            ."        mayReport: { type: boolean }\n");
    }

    /** A value in rows of boards, see {@see BoardColumn}. */
    private static function value(Field $field, bool $nullable, bool $isTrueOrFalse): string
    {
        if ($field->type === FieldType::Items) {
            $items = array_map(static fn (Field $f): string => "{$f->name}: ".self::schema($f), $field->items());

            return 'type: array, items: { type: object, required: ['.implode(', ', array_keys($items)).'], properties: { '
                .implode(', ', $items).' } }';
        }
        if ($field->type === FieldType::Choice) {
            return 'enum: ['.implode(', ', [...$field->choices(), ...($nullable ? ['null'] : [])]).']';
        }
        $type = match ($field->type) {
            FieldType::Whole, FieldType::Moment => 'integer',
            FieldType::Number => 'number',
            FieldType::Flag => $isTrueOrFalse ? 'boolean' : 'integer',
            default => 'string',
        };

        return $nullable ? "type: [{$type}, 'null']" : "type: {$type}";
    }

    /** What boards show of the written form of objects, for the front end. */
    public static function shown(): string
    {
        $kinds = [];
        foreach (BoardTable::cases() as $table) {
            foreach ($table->columns() as $column) {
                if ($column->seen !== null) {
                    $how = ['moment' => 'moment', 'flag' => 'flag'][strtolower($column->field->type->name)] ?? 'plain';
                    $kinds[$table->kind()->value][] = "        {$column->seen}: ['{$table->value}', '{$column->name}', '{$how}', "
                        .json_encode($column->field->empty(), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE)."],\n";
                }
            }
        }
        $text = "/**\n * Fields of the written form that boards show: list, column, how it is written, what it is without a row.\n"
            ." * Written by `php artisan reihe:catalogue`.\n */\nexport const SHOWN = {\n";
        foreach ($kinds as $kind => $fields) {
            $text .= "    {$kind}: {\n".str_replace('"', "'", implode('', $fields))."    },\n";
        }

        return $text."} as const;\n";
    }

    private static function schema(Field $field): string
    {
        $type = match ($field->type) {
            FieldType::Whole => 'integer',
            FieldType::Number => 'number',
            FieldType::Flag => 'boolean',
            FieldType::Week => 'object',
            FieldType::Items => 'array',
            default => 'string',
        };
        $parts = match (true) {
            $field->type === FieldType::Choice => [
                'enum: ['.implode(', ', [...$field->choices(), ...($field->nullable ? ['null'] : [])]).']',
            ],
            $field->nullable => ["type: [{$type}, 'null']"],
            default => ["type: {$type}"],
        };
        if (in_array($field->type, [FieldType::Text, FieldType::Title, FieldType::Code], true)) {
            $parts[] = 'maxLength: '.($field->max ?? 255);
        } elseif ($field->type === FieldType::Week) {
            $parts[] = 'additionalProperties: { type: string }';
        } elseif ($field->type === FieldType::Items) {
            $items = array_map(static fn (Field $f): string => "{$f->name}: ".self::schema($f), $field->items());
            $parts[] = 'items: { type: object, properties: { '.implode(', ', $items).' } }';
        } else {
            $field->min === null ?: $parts[] = "minimum: {$field->min}";
            $field->max === null ?: $parts[] = "maximum: {$field->max}";
        }
        $parts[] = "description: '".str_replace("'", "''", $field->meaning.($field->unit === null ? '' : " In {$field->unit}."))."'";

        return '{ '.implode(', ', $parts).' }';
    }
}
