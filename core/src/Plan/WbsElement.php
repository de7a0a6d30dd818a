<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

use Reihe\Core\Time\Instant;

/** Node of the work breakdown structure of one project. Its dates are always rolled up from below. */
final readonly class WbsElement implements Entity
{
    /** @param  float  $position order among the children (elements and activities) of the same parent */
    public function __construct(
        public string $uid,
        public string $project,
        public ?string $parent,
        public float $position,
        public string $code,
        public string $name,
        public ?int $deadline = null,
    ) {
    }

    /** @param  array<string, mixed>  $values */
    public static function read(string $uid, array $values): self
    {
        $f = new Fields($values);
        $element = new self(
            $uid,
            $f->uid('project'),
            $f->uidOrNull('parent'),
            $f->number('position', 0.0),
            $f->code('code', 60, ''),
            $f->string('name', ''),
            $f->instantOrNull('deadline'),
        );
        $f->done();

        return $element;
    }

    public function uid(): string
    {
        return $this->uid;
    }

    public function fields(): array
    {
        return [
            'project' => $this->project,
            'parent' => $this->parent,
            'position' => $this->position,
            'code' => $this->code,
            'name' => $this->name,
            'deadline' => Instant::formatOrNull($this->deadline),
        ];
    }
}
