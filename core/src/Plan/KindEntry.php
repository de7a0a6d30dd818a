<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** What the catalogue knows about a kind of object, see {@see EntityKind::entry()}. */
final readonly class KindEntry
{
    /**
     * @param  class-string<Entity>  $class
     * @param  string  $list  property of {@see Plan} that holds the objects
     * @param  Owner  $owner  whose it is
     * @param  Reference|null  $ownedThrough  field that leads to the project; null when the object is the project, or the enterprise has it
     * @param  list<Reference>  $references  all of them
     * @param  list<string>  $naturalKey  fields that together are unique, compared exactly, upper and lower case apart
     * @param  string  $noun  what a sentence calls it
     * @param  bool  $shapesDates  of what the enterprise has: dates follow from it
     * @param  list<string>  $bindsUsers  of what the enterprise has: fields that say what projects may do with it
     * @param  list<string>  $alike  fields that together say that two of a project mean the same, where their uids differ
     * @param  CopyPart|null  $part  of a copy that has them; null where every copy does
     * @param  list<string>  $called  fields that people call and look for it by
     */
    public function __construct(
        public string $class,
        public string $list,
        public Owner $owner,
        public ?Reference $ownedThrough,
        public array $references,
        public array $naturalKey,
        public string $noun,
        public bool $shapesDates,
        public array $bindsUsers,
        public array $alike,
        public ?CopyPart $part,
        public array $called,
    ) {
    }

    /**
     * @param  class-string<Entity>  $class
     * @param  string|null  $through  field that leads to the project
     * @param  list<string>  $naturalKey
     * @param  list<string>  $bindsUsers
     * @param  list<string>|null  $alike  references and all that must be said, where none are given
     * @param  list<string>|null  $called  key, code and name, only the name of what the enterprise has, where none are given
     */
    public static function of(string $class, string $list, Owner $owner, ?string $through, array $naturalKey, string $noun,
        bool $shapesDates = false, array $bindsUsers = [], ?array $alike = null, ?CopyPart $part = null, ?array $called = null): self
    {
        $references = $telling = [];
        $fields = Catalogue::flat($class);
        foreach ($fields as $name => $field) {
            if ($field->to !== null) {
                $references[$name] = new Reference($name, EntityKind::from($field->to), $field->onDelete);
            }
            if ($field->to !== null || $field->isRequired()) {
                $telling[] = $name;
            }
        }

        return new self($class, $list, $owner, $through === null ? null : $references[$through], array_values($references), $naturalKey,
            $noun, $shapesDates, $bindsUsers, $alike ?? ($owner === Owner::Project ? $telling : []), $part,
            $called ?? array_values(array_intersect($owner === Owner::Project ? ['key', 'code', 'name'] : ['name'],
                array_keys($fields))));
    }

    public function plural(): string
    {
        return (string) preg_replace(['/y$/', '/(ch)$/', '/(?<!s)$/'], ['ies', '$1es', 's'], $this->noun);
    }

    /** `1 entry`, `2 entries` */
    public function counted(int $count): string
    {
        return $count === 1 ? "1 {$this->noun}" : "{$count} {$this->plural()}";
    }
}
