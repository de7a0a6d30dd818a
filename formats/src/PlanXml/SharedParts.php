<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\Uid;
use Reihe\Formats\Codes;

/**
 * What projects of a file share: code sets with their entries, and own fields. What is named without being described is called by its
 * key.
 */
final class SharedParts
{
    private Codes $codes;

    private ?CodeSet $codeSet = null;

    private float $codeSets = 0.0;

    /** @var list<array{string|null, float}> open entries: uid, last position used; the code set itself first */
    private array $entries = [];

    /** @var array<string, OwnField> scope and key => field */
    private array $ownFields = [];

    /** @var array{array<string, string>, list<array<string, string>>, int}|null attributes, choices and ordinal of the open own field */
    private ?array $open = null;

    public function __construct(private readonly Uids $uids)
    {
        $this->codes = new Codes;
    }

    /**
     * @param  array<string, string>  $a  attributes
     * @return bool false for an element of something else
     */
    public function begin(string $name, array $a, int $ordinal): bool
    {
        switch ($name) {
            case 'codeSet':
                $this->codeSet = CodeSet::read($this->uids->of($ordinal, $a, "codeSet:{$a['scope']}:{$a['key']}"),
                    Attributes::values(EntityKind::CodeSet, $a) + ['position' => ++$this->codeSets]);
                $this->codes->add($this->codeSet);
                $this->entries = [[null, 0.0]];

                return true;
            case 'entry':
                $this->entry($a, $ordinal);

                return true;
            case 'ownField':
                $this->open = [$a, [], $ordinal];

                return true;
            case 'choice':
                $this->open === null ?: $this->open[1][] = $a;

                return true;
            default:
                return false;
        }
    }

    public function end(string $name): void
    {
        if ($name === 'entry') {
            array_pop($this->entries);
        } elseif ($name === 'ownField' && $this->open !== null) {
            [$a, $choices, $ordinal] = $this->open;
            $this->open = null;
            $key = "{$a['scope']} {$a['key']}";
            if (isset($this->ownFields[$key])) {
                throw new InvalidField('key', "own field {$a['key']} is given twice");
            }
            $this->ownFields[$key] = OwnField::read($this->uids->of($ordinal, $a, "ownField:{$a['scope']}:{$a['key']}"),
                Attributes::values(EntityKind::OwnField, $a) + ['choices' => $choices, 'position' => (float) count($this->ownFields) + 1]);
        }
    }

    /** @param  array<string, string>  $a */
    private function entry(array $a, int $ordinal): void
    {
        $set = $this->codeSet ?? throw new InvalidField('entry', 'stands in no code set');
        $uid = $this->uids->of($ordinal, $a, "entry:{$set->scope->value}:{$set->key}:{$a['key']}");
        $above = &$this->entries[count($this->entries) - 1];
        $this->codes->add(CodeEntry::read($uid,
            Attributes::values(EntityKind::Entry, $a) + ['codeSet' => $set->uid, 'parent' => $above[0], 'position' => ++$above[1]]));
        $this->entries[] = [$uid, 0.0];
    }

    /**
     * An entry that a project or an activity is coded with.
     *
     * @param  array<string, string>  $a
     * @param  string  $label  of what is coded
     */
    public function coding(array $a, Project $project, ?string $activity, string $label, int $ordinal): Coding
    {
        $entry = $a['entry'] ?? $a['value'] ?? throw new InvalidField('code', "of {$a['set']} needs an entry");

        return new Coding($this->uids->of($ordinal, $a, "coding:{$label}:{$a['set']}:{$entry}"), $project->uid, $activity,
            $this->codes->entry(self::scope($activity), $a['set'], $entry));
    }

    /**
     * What a project or an activity has in an own field.
     *
     * @param  array<string, string>  $a
     * @param  string  $label  of what has it
     */
    public function ownValue(array $a, Project $project, ?string $activity, string $label, int $ordinal): OwnValue
    {
        $scope = self::scope($activity)->value;
        $field = $this->ownFields["{$scope} {$a['field']}"] ??= OwnField::read(Uid::of("ownField:{$scope}:{$a['field']}"),
            ['scope' => $scope, 'key' => $a['field'], 'name' => $a['field'], 'position' => (float) count($this->ownFields) + 1]);

        return OwnValue::read($this->uids->of($ordinal, $a, "own:{$label}:{$a['field']}"), ['project' => $project->uid,
            'activity' => $activity, 'field' => $field->uid, 'value' => $a['value']]);
    }

    /** @return list<Entity> */
    public function all(): array
    {
        return [...$this->codes->all(), ...array_values($this->ownFields)];
    }

    private static function scope(?string $activity): CodeScope
    {
        return $activity === null ? CodeScope::Project : CodeScope::Activity;
    }
}
