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
    ) {
        CodeEntry::checkKey($key);
    }
}
