<?php

declare(strict_types=1);

namespace Reihe\Core\Pasting;

/** Where pasted rows go, and how they are read. */
final readonly class PasteWish
{
    /**
     * @param  string  $project  uid
     * @param  string|null  $wbs  uid of the element that the outermost rows go into
     * @param  string|null  $after  uid of the row there that they follow; null for the end
     * @param  list<string>|null  $columns  a {@see Meaning}, or `code:` or `own:` and the uid of a code set or own field,
     *     for each; null to tell them from headings and contents
     * @param  bool|null  $heading  whether the first row is one; null to tell
     * @param  string  $unit  of plain numbers as durations: d, h or w
     * @param  bool  $hold  typed starts hold the work (start no earlier than), else they are compared only
     * @param  string  $stem  what uids of new objects follow from
     * @param  Meaning|null  $merge  rows that have the code, or the name, of one that is there are about that one; null for all new
     * @param  NumberFormat|null  $numbers  how numbers are written; null to tell it from each column
     * @param  array<string, list<string>>  $headings  {@see Meaning} => further words that head such a column
     * @param  bool  $deleteMissing  activities that no row is about are deleted
     */
    public function __construct(
        public string $project,
        public ?string $wbs = null,
        public ?string $after = null,
        public ?array $columns = null,
        public ?bool $heading = null,
        public string $unit = 'd',
        public bool $hold = false,
        public string $stem = 'p',
        public ?Meaning $merge = null,
        public bool $deleteMissing = false,
        public ?NumberFormat $numbers = null,
        public array $headings = [],
    ) {
    }
}
