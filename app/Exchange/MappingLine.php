<?php

declare(strict_types=1);

namespace App\Exchange;

use Reihe\Core\Plan\EntityKind;

/** What something of a file is here, to be looked at and decided otherwise. */
final readonly class MappingLine
{
    /**
     * @param  string  $foreign  what the source calls it
     * @param  string  $label  what the file calls it
     * @param  string|null  $to  uid here; null where it is made
     * @param  string|null  $name  of that
     * @param  string  $how  new; known from before; by its key; outside, which it takes the place of; by hand; beyond
     *     reach, it stays as it is
     * @param  string|null  $within  uid here of the code set that it is in; null also where that is made
     * @param  bool  $differs  what it is here says something else
     */
    public function __construct(public EntityKind $kind, public string $foreign, public string $label, public ?string $to,
        public ?string $name, public string $how, public ?string $within = null, public bool $differs = false)
    {
    }

    /** @return array<string, mixed> */
    public function shown(): array
    {
        return ['kind' => $this->kind->value, 'foreign' => $this->foreign, 'label' => $this->label, 'to' => $this->to,
            'name' => $this->name,
            'how' => $this->how, 'within' => $this->within, 'differs' => $this->differs];
    }
}
