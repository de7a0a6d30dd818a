<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/** RELATED-TO with its RFC 9253 relation type and gap (minutes). `extras` are parameters of ours: name without `X-REIHE-` => text. */
final readonly class Relation
{
    public const EXTRAS = ['LAG-CALENDAR', 'AGREED', 'GIVER-OWNER', 'TAKER-OWNER', 'NOTE'];

    /** @param  array<string, string>  $extras */
    public function __construct(
        public string $type,
        public string $uid,
        public int $gap = 0,
        public ?string $linkUid = null,
        public array $extras = [],
    ) {
    }
}
