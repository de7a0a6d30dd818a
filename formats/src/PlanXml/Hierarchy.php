<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

/** Branches of a sender and which of them each project hangs on. Each is called by its path: names from the outermost one on. */
final readonly class Hierarchy
{
    /**
     * @param  array<string, array{lead: string|null, archived: bool}>  $branches  path => what is said of it, those above first
     * @param  array<string, string>  $of  project uid => path of the branch that it hangs on
     */
    public function __construct(public array $branches = [], public array $of = [])
    {
    }

    /** @param  list<string>  $names  the outermost first; a slash in a name becomes a division slash, U+2215 */
    public static function path(array $names): string
    {
        return implode('/', array_map(static fn (string $name): string => str_replace('/', '∕', $name), $names));
    }

    /** @return list<string> */
    public static function names(string $path): array
    {
        $names = array_map(static fn (string $name): string => (string) preg_replace(['/[\r\n\t]/', '/^\s+|\s+$/u'], [' ', ''],
            str_replace('∕', '/', $name)), explode('/', $path));

        return array_values(array_filter($names, static fn (string $name): bool => $name !== ''));
    }

    public function withoutPeople(): self
    {
        return new self(array_map(static fn (array $b): array => ['lead' => null] + $b, $this->branches), $this->of);
    }
}
