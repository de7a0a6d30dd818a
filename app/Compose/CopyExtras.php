<?php

declare(strict_types=1);

namespace App\Compose;

use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** What is said of new projects besides what their originals have: lead, deadline, codes, own fields. */
final readonly class CopyExtras
{
    private const FIELDS = ['lead', 'deadline'];

    /**
     * @param  array<string, mixed>  $fields
     * @param  list<string>  $codes  uids of entries
     * @param  array<string, string>  $own  uid of an own field => value
     */
    public function __construct(private Plan $plan, private array $fields, private array $codes, private array $own)
    {
    }

    /**
     * @param  list<Operation>  $operations
     * @return list<Operation>
     */
    public function into(array $operations): array
    {
        $sets = $projects = [];
        foreach ($this->codes as $entry) {
            $set = $this->plan->entries[$entry]->codeSet ?? '';
            $sets[$set] = true;
        }
        $kept = [];
        foreach ($operations as $o) {
            $isOfProject = $o->verb === Verb::Create && ($o->after['activity'] ?? null) === null;
            $entry = $o->after['entry'] ?? null;
            if ($o->kind === EntityKind::Project) {
                $projects[] = $o->uid;
                $kept[] = Operation::create($o->kind, $o->uid, array_intersect_key($this->fields, array_flip(self::FIELDS))
                    + ($o->after ?? []));
            } elseif ($isOfProject && (($o->kind === EntityKind::Coding && is_string($entry)
                && isset($sets[$this->plan->entries[$entry]->codeSet ?? '']))
                || ($o->kind === EntityKind::OwnValue && isset($this->own[is_string($o->after['field'] ?? null) ? $o->after['field']
                    : ''])))) {
                continue; // said otherwise
            } else {
                $kept[] = $o;
            }
        }
        foreach ($projects as $project) {
            foreach ($this->codes as $entry) {
                $kept[] = Operation::create(EntityKind::Coding, self::uid("{$project} {$entry}"), ['project' => $project,
                    'entry' => $entry]);
            }
            foreach ($this->own as $field => $value) {
                $kept[] = Operation::create(EntityKind::OwnValue, self::uid("{$project} {$field}"), ['project' => $project,
                    'field' => (string) $field,
                    'value' => $value]);
            }
        }

        return $kept;
    }

    private static function uid(string $of): string
    {
        return 'x'.substr(hash('sha256', $of), 0, 25);
    }
}
