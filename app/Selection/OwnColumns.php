<?php

declare(strict_types=1);

namespace App\Selection;

use App\Planning\Ids;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\OwnType;
use Reihe\Core\Selection\Column;
use Reihe\Core\Selection\ValueKind;
use Reihe\Core\Time\Instant;

/** The enterprise's own fields of one scope as columns `own:UID`, with what they hold as it is compared, in SQL and in memory. */
final readonly class OwnColumns
{
    private const KINDS = ['text' => ValueKind::Text, 'number' => ValueKind::Number, 'date' => ValueKind::Moment,
        'duration' => ValueKind::Number, 'choice' => ValueKind::Choice, 'flag' => ValueKind::Flag];

    /** @var array<string, OwnField> by uid, in order */
    public array $fields;

    public function __construct(EnterpriseColumns $enterprise, private Ids $ids, private CodeScope $scope)
    {
        $this->fields = $enterprise->ownFields($scope);
    }

    /** @return array<string, Column> by name */
    public function columns(): array
    {
        $columns = [];
        foreach ($this->fields as $uid => $field) {
            $columns["own:{$uid}"] = new Column("own:{$uid}", self::KINDS[$field->type->value],
                $field->type === OwnType::Duration ? null : 1, array_map(static fn ($c): string => $c->name, $field->choices));
        }

        return $columns;
    }

    public function sql(string $uid): string
    {
        $field = $this->fields[$uid];
        $id = $this->ids->id(EntityKind::OwnField, $uid);
        $of = $field->formula !== '' ? "FROM formula_values o WHERE o.activity_id = a.id AND o.field_id = {$id}"
            : 'FROM own_values o WHERE '.($this->scope === CodeScope::Project ? 'o.project_id = p.id AND o.activity_id IS NULL'
                : 'o.activity_id = a.id')." AND o.field_id = {$id}";

        return match ($field->type) {
            OwnType::Number => "(SELECT CAST(o.value AS DOUBLE) {$of})",
            OwnType::Date => "(SELECT TIMESTAMPDIFF(MINUTE, '2000-01-01', REPLACE(o.value, 'T', ' ')) {$of})",
            OwnType::Duration => "(SELECT CAST(o.value AS SIGNED) {$of})",
            OwnType::Flag => "EXISTS (SELECT 1 {$of})",
            default => "(SELECT o.value {$of})",
        };
    }

    /** What a field holds, as it is compared; null where it is nothing of the kind. */
    public function value(string $field, string $value): string|float|int|bool|null
    {
        return $this->fields[$field]->type->fault($value, $this->fields[$field]->choices) !== null ? null
            : match ($this->fields[$field]->type) {
                OwnType::Number => (float) $value,
                OwnType::Date => Instant::parse($value),
                OwnType::Duration => (int) $value,
                OwnType::Flag => true,
                default => $value,
            };
    }

    /** @return array<string, false> columns of flags, which no value means false for */
    public function flags(): array
    {
        $flags = [];
        foreach ($this->fields as $uid => $field) {
            $flags += $field->type === OwnType::Flag ? ["own:{$uid}" => false] : [];
        }

        return $flags;
    }

    /** @return array<string, OwnField> those that are calculated, by uid */
    public function calculated(): array
    {
        return array_filter($this->fields, static fn (OwnField $f): bool => $f->formula !== '');
    }
}
