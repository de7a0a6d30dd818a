<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/** RELATED-TO with its RFC 9253 relation type and gap (minutes). */
final readonly class Relation
{
    public function __construct(
        public string $type,
        public string $uid,
        public int $gap = 0,
        public ?string $linkUid = null,
        public ?string $lagCalendar = null,
    ) {
    }
}
