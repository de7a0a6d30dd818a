<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\LevelScheme;

/** Level schemes of a file with their levels, what codes and names of activities are put together from, and the codes of each level. */
final class LevelSchemes
{
    /** @var array<string, string> element => field of the scheme that lists it */
    private const LISTS = ['level' => 'levels', 'codeSegment' => 'activityCode', 'nameSegment' => 'activityName'];

    private const WHOLE = ['colour', 'length', 'level', 'width', 'step'];

    /** @var array<string, string> key => uid */
    private array $keys = [];

    /** @var list<Entity> */
    private array $parts = [];

    private ?string $uid = null;

    /** @var array<string, mixed> of the scheme that is open */
    private array $fields = [];

    /** @var list<string|null> uids of the codes that are open, the scheme itself as null first */
    private array $open = [];

    private float $codes = 0.0;

    public function __construct(private readonly Uids $uids)
    {
    }

    /**
     * @param  array<string, string>  $a  attributes
     * @return bool false for an element of something else
     */
    public function begin(string $name, array $a, int $ordinal): bool
    {
        if ($name === 'levelScheme') {
            if (isset($this->keys[$a['key']])) {
                throw new InvalidField('key', "level scheme {$a['key']} is given twice");
            }
            $this->uid = $this->keys[$a['key']] = $this->uids->of($ordinal, $a, "levelScheme:{$a['key']}");
            $this->fields = array_diff_key($a, ['uid' => 0]) + array_fill_keys(self::LISTS, []);
            $this->open = [null];
            $this->codes = 0.0;

            return true;
        }
        if (isset(self::LISTS[$name])) {
            foreach (array_intersect(self::WHOLE, array_keys($a)) as $field) {
                $a[$field] = (int) $a[$field];
            }
            /** @phpstan-ignore offsetAccess.nonOffsetAccessible */
            $this->fields[self::LISTS[$name]][] = $a;

            return true;
        }
        if ($name !== 'levelCode') {
            return false;
        }
        $scheme = $this->uid ?? throw new InvalidField('levelCode', 'stands in no level scheme');
        $above = $this->open[count($this->open) - 1];
        $uid = $this->uids->of($ordinal, $a, "levelCode:{$scheme}:{$above}:{$a['level']}:{$a['code']}");
        $this->parts[] = LevelCode::read($uid, Attributes::values(EntityKind::LevelCode, $a)
            + ['scheme' => $scheme, 'parent' => $above, 'position' => ++$this->codes]);
        $this->open[] = $uid;

        return true;
    }

    public function end(string $name): void
    {
        if ($name === 'levelCode') {
            array_pop($this->open);
        } elseif ($name === 'levelScheme' && $this->uid !== null) {
            $this->parts[] = LevelScheme::read($this->uid, $this->fields);
            $this->uid = null;
        }
    }

    /** The uid of a scheme by its key. */
    public function named(string $key): string
    {
        return $this->keys[$key] ?? throw new InvalidField('levelScheme', "there is no level scheme {$key} in the file");
    }

    /** @return list<Entity> */
    public function all(): array
    {
        return $this->parts;
    }
}
