<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

/** RELATED-TO with its RFC 9253 relation type and gap (minutes). `extras` are parameters of ours: name without `X-REIHE-` => text. */
final readonly class Relation
{
    /** LAG is `480/3840`: working minutes, and the gap in elapsed minutes that was written beside them */
    public const EXTRAS = ['LAG', 'LAG-CALENDAR', 'AGREED', 'GIVER-OWNER', 'TAKER-OWNER', 'NOTE'];

    /** types that a plan knows: links, and what lies below what */
    private const KNOWN = ['PARENT', 'CHILD', 'DEPENDS-ON', ...TodoMapper::RELTYPES];

    /** @param  array<string, string>  $extras */
    public function __construct(
        public string $type,
        public string $uid,
        public int $gap = 0,
        public ?string $linkUid = null,
        public array $extras = [],
        public bool $hasGap = false,
    ) {
    }

    public function isKnown(): bool
    {
        return in_array($this->type, self::KNOWN, true);
    }

    /** Was the gap dropped that ours had? A lag of nothing is not told by silence. */
    public function lostGap(): bool
    {
        return ! $this->hasGap && preg_match('~^-?\d{1,9}/-?0*[1-9]\d*$~D', $this->extras['LAG'] ?? '') === 1;
    }

    /**
     * The lag that it means, and whether that is elapsed time: for others a gap is; ours is working time with the elapsed time
     * beside it, and where somebody changed that, it is what counts. Files before X-REIHE-LAG have working time as gap.
     *
     * @return array{int, bool}
     */
    public function lag(): array
    {
        if (preg_match('~^(-?\d{1,9})/(-?\d{1,9})$~D', $this->extras['LAG'] ?? '', $m) === 1) {
            return (int) $m[2] === $this->gap || ! $this->hasGap ? [(int) $m[1], false] : [$this->gap, true];
        }

        return [$this->gap, $this->linkUid === null && $this->gap !== 0];
    }
}
