<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Core\CoreException;
use Reihe\Core\Plan\Catalogue;
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

    /**
     * What the file as a whole describes, but for what leads to something that it does not.
     *
     * @param  array<array-key, true>  $calendars  uids of those there are anyway
     * @return list<Entity>
     */
    public function shared(array $calendars): array
    {
        $kinds = ['X-REIHE-CALENDAR' => EntityKind::Calendar, 'X-REIHE-CODE-SET' => EntityKind::CodeSet,
            'X-REIHE-CODE-ENTRY' => EntityKind::Entry, 'X-REIHE-RESOURCE' => EntityKind::Resource];
        $objects = $there = [];
        foreach ($kinds as $property => $kind) {
            foreach ($this->in($property, $kind, $this->todos->extras[$property] ?? []) as $object) {
                $objects[] = $object;
                $there[$kind->value][$object->uid()] = true;
            }
        }
        $there[EntityKind::Calendar->value] = ($there[EntityKind::Calendar->value] ?? []) + $calendars;
        $left = count($objects);
        do { // what leads to what goes, goes
            $before = count($objects);
            foreach ($objects as $at => $object) {
                $kind = EntityKind::of($object);
                foreach ($kind->entry()->references as $reference) {
                    $to = Catalogue::value($object, $reference->field);
                    if (is_string($to) && in_array($reference->to, $kinds, true) && ! isset($there[$reference->to->value][$to])) {
                        unset($objects[$at], $there[$kind->value][$object->uid()]);
                    }
                }
            }
        } while (count($objects) < $before);
        $this->todos->leaveOut('description that leads to something the file does not have',
            'descriptions that lead to something the file does not have', $left - count($objects));

        return array_values($objects);
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
