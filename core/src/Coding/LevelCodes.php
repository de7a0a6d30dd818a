<?php

declare(strict_types=1);

namespace Reihe\Core\Coding;

use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\LevelScheme;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\WbsElement;

/** Which codes a level scheme allows where: below each code those that name it as their parent, else those of the next level. */
final class LevelCodes
{
    /** @var array<string, list<LevelCode>> uid of the code above, or `level n` => codes in order */
    private array $allowed = [];

    public function __construct(public readonly LevelScheme $scheme, private readonly Plan $plan)
    {
        $codes = array_filter($plan->levelCodes, static fn (LevelCode $c): bool => $c->scheme === $scheme->uid);
        uasort($codes, static fn (LevelCode $a, LevelCode $b): int => [$a->position, $a->uid] <=> [$b->position, $b->uid]);
        foreach ($codes as $code) {
            $this->allowed[$code->parent ?? "level {$code->level}"][] = $code;
        }
    }

    /** The level scheme of a project; null where it has none. */
    public static function ofProject(Plan $plan, string $project): ?self
    {
        $uid = $plan->projects[$project]->levelScheme ?? null;

        return $uid === null ? null : new self($plan->levelSchemes[$uid], $plan);
    }

    /**
     * @param  list<string>  $above  codes from the outermost level down
     * @return list<LevelCode> that may stand below them; empty where any may
     */
    public function below(array $above): array
    {
        $at = null;
        foreach ($above as $depth => $code) {
            $at = $this->among($at, $depth + 1, $code);
        }

        return $this->list($at, count($above) + 1);
    }

    /**
     * The code of a path, where it is in the lists.
     *
     * @param  list<string>  $path  codes from the outermost level down, at least one
     */
    public function find(array $path): ?LevelCode
    {
        $at = null;
        foreach ($path as $depth => $code) {
            $at = $this->among($at, $depth + 1, $code);
        }

        return $at;
    }

    /** Is there a list for what stands below these codes? */
    public function lists(?LevelCode $above, int $level): bool
    {
        return $this->list($above, $level) !== [];
    }

    /** What the level below some codes is called. */
    public function nameOf(?LevelCode $above, int $level): string
    {
        return $above->below ?? $this->scheme->levels[$level - 1]->name ?? "level {$level}";
    }

    private function among(?LevelCode $above, int $level, string $code): ?LevelCode
    {
        foreach ($this->list($above, $level) as $allowed) {
            if ($allowed->code === $code) {
                return $allowed;
            }
        }

        return null;
    }

    /** @return list<LevelCode> */
    private function list(?LevelCode $above, int $level): array
    {
        return $this->allowed[$above->uid ?? ''] ?? $this->allowed["level {$level}"] ?? [];
    }

    /** @return list<string> codes of an element and those above it, the outermost first */
    public static function path(Plan $plan, ?WbsElement $element): array
    {
        $path = [];
        for ($at = $element; $at !== null; $at = $at->parent === null ? null : $plan->wbs[$at->parent] ?? null) {
            array_unshift($path, $at->code);
        }

        return $path;
    }

    /** @param  list<string>  $path */
    public function joined(array $path): string
    {
        $joined = '';
        foreach ($path as $depth => $code) {
            $joined .= ($depth === 0 ? '' : $this->scheme->levels[$depth]->separator ?? '.').$code;
        }

        return $joined;
    }
}
