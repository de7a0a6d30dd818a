<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Baseline\Baseline;
use Reihe\Core\Baseline\BaselineRow;
use Reihe\Core\Plan\InvalidField;
use Reihe\Core\Plan\Uid;
use Reihe\Core\Time\Instant;

/** Baselines of a file, of the project that they stand in. */
final class BaselineParts
{
    /** @var list<array{Baseline, bool}> with whether it is the current one */
    public array $all = [];

    /** @var array<string, string>|null attributes of the baseline that is open */
    private ?array $open = null;

    private int $ordinal = 0;

    private string $project = '';

    /** @var array{activity: array<string, BaselineRow>, wbs: array<string, BaselineRow>, project: array<string, BaselineRow>} */
    private array $rows = ['activity' => [], 'wbs' => [], 'project' => []];

    public function __construct(private readonly Uids $uids)
    {
    }

    /** @param  array<string, string>  $a  attributes */
    public function begin(array $a, string $project, int $ordinal): void
    {
        $this->open = $a;
        $this->ordinal = $ordinal;
        $this->project = $project;
        $this->rows = ['activity' => [], 'wbs' => [], 'project' => []];
    }

    /** @param  array<string, string>  $a  attributes */
    public function row(array $a): void
    {
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

    public function end(): void
    {
        if ($this->open === null) {
            return;
        }
        $a = $this->open;
        $this->open = null;
        $current = in_array($a['current'] ?? '', ['true', '1'], true);
        foreach ($current ? $this->all : [] as [$other, $isCurrent]) {
            if ($isCurrent && $other->project === $this->project) {
                throw new InvalidField('current', 'is said of two baselines of the project');
            }
        }
        $this->all[] = [new Baseline($this->uids->of($this->ordinal, $a, "baseline:{$this->project}:".count($this->all)), $this->project,
            $a['name'], Instant::parse($a['taken']), $this->rows['project'][$this->project] ?? null, $this->rows['activity'],
            $this->rows['wbs']), $current];
    }
}
