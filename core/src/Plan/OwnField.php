<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Formula\Formula;
use Reihe\Core\Formula\InvalidFormula;

/** A field that the enterprise adds to its projects or activities. */
final readonly class OwnField implements Entity
{
    use Described;

    /** @param  list<OwnChoice>  $choices */
    public function __construct(
        public string $uid,
        #[Field(FieldType::Choice, 'What has it.', of: CodeScope::class)]
        public CodeScope $scope,
        #[Field(FieldType::Code, 'Short key, unique in its scope.', max: 40)]
        public string $key,
        #[Field(FieldType::Title, 'Name, unique in its scope.', max: 120)]
        public string $name,
        #[Field(FieldType::Choice, 'What it holds.', of: OwnType::class)]
        public OwnType $type = OwnType::Text,
        #[Field(FieldType::Items, 'What it may be, of a choice.', of: OwnChoice::class, itemKey: 'name')]
        public array $choices = [],
        #[Field(FieldType::Text, 'What it means.', max: 500, default: '')]
        public string $description = '',
        #[Field(FieldType::Flag, 'New projects must have it.')]
        public bool $required = false,
        #[Field(FieldType::Number, 'Order among the own fields.', default: 0.0)]
        public float $position = 0.0,
        #[Field(FieldType::Text, 'How it is calculated from other fields; empty where it is typed.', max: 1000, default: '')]
        public string $formula = '',
    ) {
        CodeEntry::checkKey($key);
        if ($formula !== '') {
            $this->checkFormula();
        }
        if ($type !== OwnType::Choice && $choices !== []) {
            throw new InvalidField('choices', 'belong to a choice');
        }
        $names = array_map(static fn (OwnChoice $c): string => $c->name, $choices);
        if (array_unique($names) !== $names) {
            throw new InvalidField('choices', 'has one twice');
        }
    }

    /** Why a text is no value of the field; null when it is one. */
    public function fault(string $value): ?string
    {
        return $this->formula !== '' ? "cannot be typed, {$this->name} is calculated" : $this->type->fault($value, $this->choices);
    }

    private function checkFormula(): void
    {
        if ($this->scope !== CodeScope::Activity) {
            throw new InvalidField('formula', 'is for fields of activities');
        }
        if ($this->type === OwnType::Choice || $this->required) {
            throw new InvalidField('formula', 'cannot be had by a choice, or by what must be typed');
        }
        try {
            Formula::of($this->formula);
        } catch (InvalidFormula $e) {
            throw new InvalidField('formula', "is not understood: {$e->getMessage()}");
        }
    }
}
