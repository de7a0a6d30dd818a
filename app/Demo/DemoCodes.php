<?php

declare(strict_types=1);

namespace App\Demo;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\Kind;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Plan\Project;

/** Codes, own fields, leads and level codes of the standard demo. */
final class DemoCodes
{
    /**
     * @param  list<Entity>  $parts
     * @return list<Entity>
     */
    public static function with(array $parts): array
    {
        $more = [];
        foreach ($parts as $i => $part) {
            if ($part instanceof Project) {
                $vessel = in_array($part->key, ['TERN', 'GANN', 'PLOV', 'EIDR'], true);
                $parts[$i] = Project::read($part->uid, ['lead' => DemoMore::LEADS[$part->key] ?? null,
                    'levelScheme' => $vessel ? 'levels-vessel' : null] + $part->fields());
                foreach (DemoMore::CODES[$part->key] ?? [] as $set => $entry) {
                    $more[] = new Coding(strtolower("coding-{$part->key}-{$set}"), $part->uid, null, DemoEnterprise::entry($set,
                        $entry));
                }
                foreach (DemoMore::OWN[$part->key] ?? [] as $field => $value) {
                    $more[] = new OwnValue(strtolower("own-{$part->key}-{$field}"), $part->uid, null, strtolower("own-{$field}"),
                        $value);
                }
            } elseif ($part instanceof Activity && $part->project !== 'prj-BATT') {
                $section = explode('-', $part->code)[1];
                $entries = array_filter(['DISCIPLINE' => DemoMore::DISCIPLINES[$section] ?? null,
                    'CONTRACTOR' => $part->kind === Kind::Task ? ['YARD', 'LYS', 'BERG', 'OWN'][crc32($part->name) % 4] : null,
                    'SAFETY' => str_contains($part->name, 'energise') || str_contains($part->name, 'Switchgear') ? 'HV'
                        : (str_contains($part->name, 'Fire') ? 'FIRE' : null)]);
                foreach ($entries as $set => $entry) {
                    $more[] = new Coding("{$part->uid}-".strtolower($set), $part->project, $part->uid, DemoEnterprise::entry($set,
                        $entry));
                }
                array_push($more, ...self::own($part));
            }
        }

        return [...$parts, ...$more];
    }

    /** @return list<OwnValue> */
    private static function own(Activity $a): array
    {
        $n = crc32($a->uid);
        $values = array_filter($a->kind !== Kind::Task ? [] : [
            'risk' => ['High', 'Medium', 'Low', '', '', ''][$n % 6],
            'people' => $n % 3 === 0 ? (string) (2 + $n % 7) : '',
            'setup' => $n % 9 === 0 ? '480' : '',
            'inspection' => str_contains($a->name, 'test') ? '2027-03-0'.(1 + $n % 5).'T00:00' : '',
            'permit' => str_contains($a->name, 'steel') || str_contains($a->name, 'Weld') ? 'true' : ''],
            static fn (string $v): bool => $v !== '');

        return array_map(static fn (string $field, string $value): OwnValue => new OwnValue("own-{$a->uid}-{$field}", $a->project, $a->uid,
            "own-{$field}", $value), array_keys($values), $values);
    }
}
