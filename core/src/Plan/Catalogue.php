<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use ReflectionClass;
use ReflectionNamedType;

/** The catalogue of fields: what value classes say about their properties ({@see Field}), and what follows from it. */
final class Catalogue
{
    /** @var array<class-string, array<string, Field>> */
    private static array $fields = [];

    /**
     * Fields of a value class by name, those of parts under {@see FieldType::Part}.
     *
     * @param  class-string  $class
     * @return array<string, Field>
     */
    public static function fields(string $class): array
    {
        return self::$fields[$class] ??= self::described($class);
    }

    /**
     * Fields of the written form: those of parts in their place.
     *
     * @param  class-string  $class
     * @return array<string, Field>
     */
    public static function flat(string $class): array
    {
        $flat = [];
        foreach (self::fields($class) as $name => $field) {
            $flat += $field->type === FieldType::Part && $field->of !== null ? self::flat($field->of) : [$name => $field];
        }

        return $flat;
    }

    /**
     * The written form of an object: field => text, number, true or false, null or list.
     *
     * @return array<string, mixed>
     */
    public static function written(object $object): array
    {
        $written = [];
        foreach (self::fields($object::class) as $name => $field) {
            $value = self::value($object, $name);
            if ($field->type === FieldType::Part && is_object($value)) {
                $written += self::written($value);
            } else {
                $written[$name] = $field->type->written($value);
            }
        }

        return $written;
    }

    /**
     * One property, null where there is none. To ask an object for all of them at once makes a table that it then
     * keeps, several times its own size.
     */
    public static function value(object $object, string $property): mixed
    {
        return $object->{$property} ?? null;
    }

    /**
     * @template T of object
     *
     * @param  class-string<T>  $class
     * @param  mixed  ...$given  properties that are no fields, by name
     * @return T
     *
     * @throws InvalidField
     */
    public static function read(string $class, Fields $f, mixed ...$given): object
    {
        foreach (self::fields($class) as $name => $field) {
            $given[$name] = $field->read($f);
        }

        return new $class(...$given);
    }

    /**
     * @param  class-string  $class
     * @return array<string, Field>
     */
    private static function described(string $class): array
    {
        $fields = [];
        foreach ((new ReflectionClass($class))->getConstructor()?->getParameters() ?? [] as $parameter) {
            $attribute = $parameter->getAttributes(Field::class)[0] ?? null;
            if ($attribute === null) {
                continue;
            }
            $type = $parameter->getType();
            $default = $parameter->isDefaultValueAvailable() ? $parameter->getDefaultValue() : null;
            $fields[$parameter->getName()] = $attribute->newInstance()
                ->on($parameter->getName(), $type instanceof ReflectionNamedType && $type->allowsNull(), $default);
        }

        return $fields;
    }
}
