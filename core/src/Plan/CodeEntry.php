<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** An entry of a code set; entries may lie below others. */
final readonly class CodeEntry implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Code set that it belongs to.', to: 'codeSet')]
        public string $codeSet,
        #[Field(FieldType::Reference, 'Entry of the same set above it.', to: 'entry')]
        public ?string $parent,
        #[Field(FieldType::Code, 'Short key, unique in its set.', max: 60)]
        public string $key,
        #[Field(FieldType::Title, 'Name, unique among the entries of the same parent.', max: 120)]
        public string $name,
        #[Field(FieldType::Number, 'Order among the entries of the same parent.', default: 0.0)]
        public float $position = 0.0,
    ) {
        self::checkKey($key);
    }

    /** @throws InvalidField when it is empty */
    public static function checkKey(string $key): void
    {
        if ($key === '') {
            throw new InvalidField('key', 'must not be empty');
        }
    }
}
