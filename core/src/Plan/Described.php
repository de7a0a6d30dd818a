<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** An object of a plan whose written form follows from what its properties say. */
trait Described
{
    /**
     * @param  array<string, mixed>  $values  written form
     *
     * @throws InvalidField
     */
    public static function read(string $uid, array $values): self
    {
        $f = new Fields($values);
        $object = Catalogue::read(self::class, $f, uid: $uid);
        $f->done();

        return $object;
    }

    public function uid(): string
    {
        return $this->uid;
    }

    public function fields(): array
    {
        return Catalogue::written($this);
    }
}
