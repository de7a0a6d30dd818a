<?php

declare(strict_types=1);

namespace App\OData;

use Closure;

/**
 * Rows with properties and relations: an entity set, whose key is always Id, or what `$apply` made of one.
 */
final readonly class EntitySet
{
    /**
     * @param  Closure(Sql): string  $table  writes the rows as a table whose columns are the properties
     * @param  array<string, Property>  $properties
     * @param  array<string, Navigation>  $navigations
     */
    public function __construct(
        public string $name,
        public string $type,
        public string $description,
        public Closure $table,
        public array $properties,
        public array $navigations,
        public bool $isEntities = true,
    ) {
    }

    /**
     * An entity set of the database.
     *
     * @param  string  $from  `{within:column}` in it, and in SQL of properties, is whether a branch is within reach
     * @param  string|null  $branch  column of the branch that decides about access; null for what everybody with a role sees
     * @param  array<string, Property>  $properties
     * @param  array<string, Navigation>  $navigations
     * @param  string|null  $secondBranch  another that must be within reach too
     */
    public static function stored(string $name, string $type, string $from, ?string $branch, string $description, array $properties,
        array $navigations, ?string $secondBranch = null): self
    {
        return new self($name, $type, $description, static function (Sql $sql) use ($name, $from, $branch, $properties,
            $secondBranch): string {
            $sql->reader->require($name);
            $columns = [];
            foreach ($properties as $p) {
                $columns[] = "{$p->sql} AS `{$p->name}`";
            }
            $limit = static fn (string $text): string => (string) preg_replace_callback('/\{within:([\w.]+)\}/',
                static fn (array $m): string => $sql->within($m[1]), $text);

            $from = $sql->byKey ? preg_replace('/^(\w+) (\w+)/', '$0 FORCE INDEX FOR ORDER BY ($1_uid_unique)', $from) : $from;

            return '(SELECT '.$limit(implode(', ', $columns)." FROM {$from}")." WHERE {$sql->within($branch)} AND "
                .($secondBranch === null ? '1' : $sql->within($secondBranch)).')';
        }, $properties, $navigations);
    }

    public function property(string $name, string $option = '$select', int $at = 0): Property
    {
        return $this->properties[$name] ?? throw new ODataError(400,
            ($at > 0 ? "{$option}, position {$at}: " : '')."{$this->name} has no property “{$name}”.", $name);
    }

    public function navigation(string $name): Navigation
    {
        return $this->navigations[$name] ?? throw new ODataError(400, "{$this->name} has no relation “{$name}”.", $name);
    }
}
