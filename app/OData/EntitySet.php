<?php

declare(strict_types=1);

namespace App\OData;

/** An entity set: a SELECT, its properties and relations. The key is always Id. */
final readonly class EntitySet
{
    /**
     * @param  string|null  $branch  column of the branch that decides about access; null for what everybody with a role sees
     * @param  array<string, Property>  $properties
     * @param  array<string, Navigation>  $navigations
     */
    public function __construct(
        public string $name,
        public string $type,
        public string $from,
        public ?string $branch,
        public string $description,
        public array $properties,
        public array $navigations,
        public ?string $secondBranch = null,
    ) {
    }

    public function property(string $name): Property
    {
        return $this->properties[$name] ?? throw new ODataError(400, "{$this->name} has no property “{$name}”.", $name);
    }

    public function navigation(string $name): Navigation
    {
        return $this->navigations[$name] ?? throw new ODataError(400, "{$this->name} has no relation “{$name}”.", $name);
    }
}
