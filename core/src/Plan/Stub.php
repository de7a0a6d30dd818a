<?php

declare(strict_types=1);

namespace Reihe\Core\Plan;

/** The far end of a handover whose project is not at hand: fixed dates, their source and age. */
final readonly class Stub
{
    /**
     * @param  string  $code  `KEY/CODE` of the activity it stands for
     * @param  string  $source  where the dates come from
     * @param  int|null  $asOf  when they were current
     */
    public function __construct(
        public string $uid,
        public string $code,
        public string $name,
        public int $start,
        public int $finish,
        public string $source = '',
        public ?int $asOf = null,
    ) {
        if ($finish < $start) {
            throw new InvalidField('finish', 'lies before the start');
        }
    }
}
