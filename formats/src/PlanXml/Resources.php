<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Resource;

/** Resources of a file, which assignments name by their keys. */
final class Resources
{
    /** @var array<string, Resource> by key */
    private array $keys = [];

    public function __construct(private readonly Uids $uids)
    {
    }

    /**
     * @param  array<string, string>  $a  attributes
     * @param  array<string, mixed>  $fields  written form
     */
    public function add(array $a, array $fields, int $ordinal): void
    {
        if (isset($this->keys[$a['key']])) {
            throw new InvalidField('key', "resource {$a['key']} is given twice");
        }
        $this->keys[$a['key']] = Resource::read($this->uids->of($ordinal, $a, "resource:{$a['key']}"), $fields);
    }

    /** The uid of a resource by its key. */
    public function named(string $key): string
    {
        return ($this->keys[$key] ?? throw new InvalidField('resource', "there is no resource {$key} in the file"))->uid;
    }

    /** @return list<Resource> */
    public function all(): array
    {
        return array_values($this->keys);
    }
}
