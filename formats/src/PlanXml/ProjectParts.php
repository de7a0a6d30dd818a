<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Insertion;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Time\Instant;

/** What stands in a project of a file beside its rows: baselines, and where fragments were put in. */
final class ProjectParts
{
    /** @var list<array{Baseline, bool}> with whether it is the current one */
    public array $baselines = [];

    /** @var list<Insertion> */
    public array $insertions = [];

    /** @var array<string, string> attributes of what is open */
    private array $open = [];

    private int $ordinal = 0;

    private string $project = '';

    /** @var array{activity: array<string, BaselineRow>, wbs: array<string, BaselineRow>, project: array<string, BaselineRow>} */
    private array $rows = ['activity' => [], 'wbs' => [], 'project' => []];

    /** @var list<array{of: string, made: string}> */
    private array $pairs = [];

    public function __construct(private readonly Uids $uids)
    {
    }

    /** @param  array<string, string>  $a  attributes */
    public function begin(array $a, string $project, int $ordinal): void
    {
        [$this->open, $this->ordinal, $this->project] = [$a, $ordinal, $project];
        $this->rows = ['activity' => [], 'wbs' => [], 'project' => []];
        $this->pairs = [];
    }

    /** @param  array<string, string>  $a  attributes */
    public function inside(string $name, array $a): void
    {
        if ($name === 'pair') {
            $this->pairs[] = ['of' => $a['of'], 'made' => Uid::of($a['made'])];

            return;
        }
        $kind = $a['kind'] ?? 'activity';
        $of = $kind === 'project' ? $this->project : Uid::of($a['of'] ?? throw new InvalidField('of', 'is missing'));
        if (! isset($this->rows[$kind])) {
            throw new InvalidField('kind', 'must be activity, wbs or project');
        }
        if (isset($this->rows[$kind][$of])) {
            throw new InvalidField('of', 'is given twice in a baseline');
        }
        $this->rows[$kind][$of] = new BaselineRow($a['code'] ?? '', $a['name'] ?? '', Instant::parse($a['start']),
            Instant::parse($a['finish']), (int) ($a['duration'] ?? 0), (int) ($a['work'] ?? 0), (int) ($a['cost'] ?? 0));
    }

    public function end(string $name): void
    {
        $name === 'insertion' ? $this->insertion() : $this->baseline();
    }

    private function insertion(): void
    {
        $a = $this->open;
        $uid = $this->uids->of($this->ordinal, $a, "insertion:{$this->project}:".count($this->insertions));
        $this->insertions[] = Insertion::read($uid, Attributes::values(EntityKind::Insertion, $a)
            + ['project' => $this->project, 'pairs' => $this->pairs]);
    }

    private function baseline(): void
    {
        $a = $this->open;
        $current = in_array($a['current'] ?? '', ['true', '1'], true);
        foreach ($current ? $this->baselines : [] as [$other, $isCurrent]) {
            if ($isCurrent && $other->project === $this->project) {
                throw new InvalidField('current', 'is said of two baselines of the project');
            }
        }
        $name = trim((string) preg_replace('/\s+/u', ' ', $a['name']));
        if ($name === '') {
            throw new InvalidField('name', 'must not be empty');
        }
        $uid = $this->uids->of($this->ordinal, $a, "baseline:{$this->project}:".count($this->baselines));
        $this->baselines[] = [new Baseline($uid, $this->project, $name, Instant::parse($a['taken']),
            $this->rows['project'][$this->project] ?? null, $this->rows['activity'], $this->rows['wbs']), $current];
    }
}
