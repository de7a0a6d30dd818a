<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** A fragment put into a project once: which version, where, and what became of its objects. */
final readonly class Insertion implements Entity
{
    use Described;

    /** @param  list<Pair>  $pairs */
    public function __construct(
        public string $uid,
        #[Field(FieldType::Reference, 'Project that has it.', to: 'project')]
        public string $project,
        #[Field(FieldType::Text, 'Uid of the fragment, which may be gone by now.', max: 64, tells: Tells::Nobody)]
        public string $fragment,
        #[Field(FieldType::Title, 'Name of the fragment.', max: 255, tells: Tells::Nobody)]
        public string $name,
        #[Field(FieldType::Whole, 'Version of the fragment.', min: 1, max: 100_000)]
        public int $version,
        #[Field(FieldType::Text, 'What codes of its activities begin with.', max: 60, default: '', tells: Tells::Nobody)]
        public string $prefix = '',
        #[Field(FieldType::Items, 'What was made of which object.', of: Pair::class, itemKey: 'of')]
        public array $pairs = [],
    ) {
    }
}
