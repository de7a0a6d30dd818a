<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/**
 * A code that a WBS element may have on one level. Below it the codes that name it as their parent are allowed, or, where there are
 * none, those of the next level that name no parent.
 */
final readonly class LevelCode implements Entity
{
    use Described;

    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Level scheme that it belongs to.', to: 'levelScheme')]
        public string $scheme,
        #[Field(FieldType::Reference, 'Code of the level above that it is allowed below; none where it is below any.', to: 'levelCode')]
        public ?string $parent,
        #[Field(FieldType::Whole, 'WBS level, from 1.', min: 1, max: WbsLevel::MOST)]
        public int $level,
        #[Field(FieldType::Code, 'Short code.', max: 20)]
        public string $code,
        #[Field(FieldType::Title, 'Name of elements that have it.', max: 120)]
        public string $name,
        #[Field(FieldType::Text, 'What the level below it is called, where that differs.', max: 60)]
        public ?string $below = null,
        #[Field(FieldType::Number, 'Order among the codes of the same place.', default: 0.0)]
        public float $position = 0.0,
    ) {
        if ($code === '') {
            throw new InvalidField('code', 'must not be empty');
        }
    }
}
