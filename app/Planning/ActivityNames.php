<?php

declare(strict_types=1);

namespace App\Planning;

use App\Database\Rows;
use Reihe\Core\Plan\Names;
use Reihe\Core\Plan\Plan;

/** Names of activities: of a plan at hand, else from the database. */
final class ActivityNames implements Names
{
    /**
     * @var array<string, array{project: string, key: string, code: string, name: string, kind: string}|null> by uid; null for what
     *     is not there
     */
    private array $known = [];

    public function __construct(private readonly Plan $plan = new Plan)
    {
    }

    public function label(string $activity): string
    {
        $found = $this->find($activity);

        return $found === null ? $this->plan->label($activity) : "{$found['key']}/{$found['code']}";
    }

    public function name(string $activity): string
    {
        return $this->find($activity)['name'] ?? $this->plan->name($activity);
    }

    /**
     * @return array{project: string, key: string, code: string, name: string, kind: string}|null uid and key of its project, its
     *     code, name and kind
     */
    public function find(string $activity): ?array
    {
        if (isset($this->plan->activities[$activity])) {
            $a = $this->plan->activities[$activity];

            $key = $this->plan->projects[$a->project]->key ?? '';

            return ['project' => $a->project, 'key' => $key, 'code' => $a->code, 'name' => $a->name, 'kind' => $a->kind->value];
        }
        if (! array_key_exists($activity, $this->known)) {
            $this->expect([$activity]);
        }

        return $this->known[$activity];
    }

    public function expect(array $activities): void
    {
        $isMissing = fn (string $uid): bool => ! isset($this->plan->activities[$uid]) && ! array_key_exists($uid, $this->known);
        $missing = array_values(array_filter($activities, $isMissing));
        $this->known += array_fill_keys($missing, null);
        foreach (array_chunk($missing, Rows::CHUNK) as $chunk) {
            foreach (Rows::all('SELECT a.uid, p.uid, p.`key`, a.code, a.name, a.kind FROM activities a
                JOIN projects p ON p.id = a.project_id
                WHERE a.uid IN '.Rows::quoted($chunk)) as [$uid, $project, $key, $code, $name, $kind]) {
                $this->known[(string) $uid] = ['project' => (string) $project, 'key' => (string) $key, 'code' => (string) $code,
                    'name' => (string) $name, 'kind' => (string) $kind];
            }
        }
    }
}
