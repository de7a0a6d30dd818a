<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A named list of entries that objects of one scope are coded with. */
final readonly class CodeSet implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Choice, 'What its entries are for.', of: CodeScope::class)]
        public CodeScope $scope,
        #[Field(FieldType::Code, 'Short key, unique in its scope.', max: 40)]
        public string $key,
        #[Field(FieldType::Title, 'Name, unique in its scope.', max: 120)]
        public string $name,
        #[Field(FieldType::Number, 'Order among the code sets.', default: 0.0)]
        public float $position = 0.0,
        #[Field(FieldType::Text, 'What it tells.', max: 500, default: '')]
        public string $description = '',
        #[Field(FieldType::Whole, 'Longest key that an entry of it may have.', unit: 'characters', min: 1, max: CodeEntry::KEY_LENGTH)]
        public ?int $keyLength = null,
        #[Field(FieldType::Flag, 'An object may have several entries of it.')]
        public bool $multiple = false,
        #[Field(FieldType::Number, 'What it counts in the ranking, beside the other sets.', min: 0, max: 1000)]
        public float $weight = 0.0,
        #[Field(FieldType::Text, 'Person answerable for it.', max: 255, tells: Tells::People)]
        public ?string $steward = null,
        #[Field(FieldType::Choice, 'Least role that codes with it, on the branch of what is coded.', of: Role::class)]
        public Role $assignedBy = Role::Planner,
        #[Field(FieldType::Choice, 'Least role, on any branch, that adds entries.', of: Role::class)]
        public Role $addedBy = Role::Planner,
        #[Field(FieldType::Choice, 'Least role, on any branch, that changes, merges and deletes entries.', of: Role::class)]
        public Role $editedBy = Role::Administrator,
        #[Field(FieldType::Reference, 'Branch whose projects, with those below it, must be coded with it; none where it is free.',
            to: 'branch', onDelete: OnDelete::Refuses)]
        public ?string $demandedOn = null,
    ) {
        CodeEntry::checkKey($key);
    }
}
