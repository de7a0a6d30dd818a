<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Uid;
use Reihe\Formats\FormatError;

/** Objects that properties of ours describe as JSON. */
final readonly class DescribedParts
{
    public function __construct(private Todos $todos)
    {
    }

    /** @return iterable<Entity> what a property of the file as a whole describes */
    public function ofFile(string $property, EntityKind $kind): iterable
    {
        return $this->in($property, $kind, $this->todos->extras[$property] ?? []);
    }

    /**
     * What a property describes as JSON.
     *
     * @param  list<string>  $values
     * @param  array<string, string>  $more  fields that the property leaves out
     * @return iterable<Entity>
     */
    public function in(string $property, EntityKind $kind, array $values, array $more = []): iterable
    {
        foreach ($values as $json) {
            $fields = json_decode($json, true);
            if (! is_array($fields) || ! is_string($fields['uid'] ?? null)) {
                throw new FormatError("{$property} does not hold a {$kind->entry()->noun}", $this->todos->lineOf($property));
            }
            $uid = Uid::of($fields['uid']);
            unset($fields['uid']);
            $fields = $more + $fields;
            foreach ($kind->entry()->references as $reference) {
                $to = $fields[$reference->field] ?? null;
                $fields[$reference->field] = is_string($to) ? Uid::of($to) : null;
            }
            try {
                /** @var array<string, mixed> $fields */
                yield $kind->read($uid, $fields);
            } catch (CoreException $e) {
                throw new FormatError("{$property}: {$e->getMessage()}", $this->todos->lineOf($uid) ?? $this->todos->lineOf($property));
            }
        }
    }
}
