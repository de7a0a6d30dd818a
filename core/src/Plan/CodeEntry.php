<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** An entry of a code set; entries may lie below others. */
final readonly class CodeEntry implements Entity
{
    use Described;

    public const KEY_LENGTH = 60;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Code set that it belongs to.', to: 'codeSet')]
        public string $codeSet,
        #[Field(FieldType::Reference, 'Entry of the same set above it.', to: 'entry')]
        public ?string $parent,
        #[Field(FieldType::Code, 'Short key, unique in its set.', max: self::KEY_LENGTH)]
        public string $key,
        #[Field(FieldType::Title, 'Name, unique among the entries of the same parent.', max: 120)]
        public string $name,
        #[Field(FieldType::Number, 'Order among the entries of the same parent.', default: 0.0)]
        public float $position = 0.0,
        #[Field(FieldType::Text, 'What it stands for.', max: 500, default: '')]
        public string $description = '',
        #[Field(FieldType::Whole, 'Place in the palette.', min: 1, max: Project::COLOURS)]
        public ?int $colour = null,
        #[Field(FieldType::Text, 'Person answerable for it.', max: 255, tells: Tells::People)]
        public ?string $steward = null,
        #[Field(FieldType::Number, 'What it counts in the ranking, beside the other entries of the set.', min: 0, max: 1000)]
        public float $weight = 0.0,
        #[Field(FieldType::Flag, 'It stays where it is used, and is not assigned any more.')]
        public bool $retired = false,
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
