<?php

declare(strict_types=1);

namespace App\Exchange;

/** How a file is to be read. */
final readonly class Reading
{
    /** kinds of which it is decided by hand what they are here */
    public const MAPPED = ['project', 'calendar', 'codeSet', 'entry', 'resource'];

    /**
     * @param  bool  $successorCarries  links stand on the successor's component
     * @param  bool  $events  appointments are read too, as work whose dates are pinned
     * @param  bool  $branches  new projects hang as they do with the sender, below the branch chosen for the file
     * @param  bool  $update  projects that came from the same source before are updated, not copied
     * @param  bool  $fileWins  where we and the file changed the same, the file counts
     * @param  bool  $deleteMissing  what the source knew of and does not tell any more is deleted
     * @param  array<string, array<array-key, string>>  $mapping  kind => what the source calls it => uid here, or nothing for one of
     *     its own; decided by hand
     */
    public function __construct(public bool $successorCarries = false, public bool $events = false, public bool $branches = false,
        public bool $update = false,
        public bool $fileWins = false, public bool $deleteMissing = false, public array $mapping = [])
    {
    }

    /** @param  array<string, mixed>  $input */
    public static function of(array $input): self
    {
        $is = static fn (string $name): bool => ($input[$name] ?? false) === true;

        $mapping = [];
        foreach (self::MAPPED as $kind) {
            $of = is_array($input['mapping'] ?? null) ? $input['mapping'][$kind] ?? [] : [];
            foreach (is_array($of) ? $of : [] as $foreign => $uid) {
                is_string($uid) && $mapping[$kind][$foreign] = $uid;
            }
        }

        return new self($is('successorCarries'), $is('events'), $is('branches'), $is('update'), $is('fileWins'), $is('deleteMissing'),
            $mapping);
    }
}
