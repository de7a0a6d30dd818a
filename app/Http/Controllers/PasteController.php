<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Compose\Composer;
use App\Planning\Connected;
use App\Planning\Planning;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;
use Illuminate\Validation\ValidationException;
use Reihe\Core\Pasting\DateComparison;
use Reihe\Core\Pasting\Meaning;
use Reihe\Core\Pasting\NumberFormat;
use Reihe\Core\Pasting\PastedRows;
use Reihe\Core\Pasting\PasteWish;
use Reihe\Core\Plan\CodeScope;
use Reihe\Core\Plan\Plan;

/** Tables and lists from elsewhere as new rows of a project. */
final class PasteController
{
    private const FINDINGS = 500;

    private readonly Composer $composer;

    public function __construct(private readonly Reach $reach, Planning $planning)
    {
        $this->composer = new Composer($reach, $planning);
    }

    public function __invoke(Request $request): JsonResponse
    {
        /** @var array{project: string, wbs?: string|null, after?: string|null, text: string, columns?: list<string>|null,
         *     heading?: bool|null, unit?: string, hold?: bool, merge?: string|null, deleteMissing?: bool,
         *     numbers?: string|null} $input */
        $input = $request->validate(['project' => 'required|string', 'wbs' => 'nullable|string', 'after' => 'nullable|string',
            'text' => 'required|string|max:2000000', 'columns' => 'nullable|array|max:60', 'columns.*' => 'required|string|max:80',
            'heading' => 'nullable|boolean', 'unit' => [Rule::in(['d', 'h', 'w'])], 'hold' => 'boolean',
            'merge' => ['nullable', Rule::in(['code', 'name'])], 'deleteMissing' => 'boolean',
            'numbers' => ['nullable', Rule::enum(NumberFormat::class)]]);
        $id = ($this->reach->projects() + $this->reach->sources())[$input['project']] ?? null;
        abort_if($id === null, 404);
        $plan = $this->composer->plan([$id]);
        self::check($input['columns'] ?? [], $input['wbs'] ?? null, $input['project'], $plan);
        $pasted = PastedRows::of($plan, new PasteWish($input['project'], $input['wbs'] ?? null, $input['after'] ?? null,
            $input['columns'] ?? null, $input['heading'] ?? null, $input['unit'] ?? 'd', $input['hold'] ?? false,
            Composer::stem($request), Meaning::tryFrom($input['merge'] ?? ''), $input['deleteMissing'] ?? false,
            NumberFormat::tryFrom($input['numbers'] ?? ''), self::headings()), $input['text']);

        $outcome = $this->composer->carryOut($request, $pasted->operations,
            "rows pasted into {$plan->projects[$input['project']]->key}");
        // what changes nothing is not calculated either
        $schedule = $pasted->operations === [] && $pasted->dates !== [] ? Connected::with([$id])->schedule : $outcome->schedule;
        $states = array_count_values(array_column($pasted->rows, 'state'));

        return $this->composer->answer($request, $outcome, [
            'dates' => $schedule === null || $pasted->dates === [] ? null : DateComparison::of($pasted->dates, $schedule),
            'missing' => array_map(static fn (string $uid): array => ['uid' => $uid, 'code' => $plan->activities[$uid]->code,
                'name' => $plan->activities[$uid]->name], array_slice($pasted->missing, 0, self::FINDINGS)),
            'states' => ['new' => $states['new'] ?? 0, 'changed' => $states['changed'] ?? 0, 'unchanged' => $states['unchanged'] ?? 0,
                'missing' => count($pasted->missing)], 'columns' => $pasted->columns->meanings,
            'numbers' => $pasted->written()?->value,
            'heading' => $pasted->columns->heading, 'headings' => $pasted->headings, 'rows' => $pasted->rows,
            'findings' => array_slice($pasted->findings, 0, self::FINDINGS), 'allFindings' => count($pasted->findings)]);
    }

    /** @return array<string, list<string>> words that head columns here, beside those that are known anyway */
    private static function headings(): array
    {
        /** @var array<string, list<string>> */
        return array_map(static fn (mixed $words): array => array_values(array_filter((array) $words, is_string(...))),
            config()->array('headings'));
    }

    /** @param  list<string>  $columns */
    private static function check(array $columns, ?string $wbs, string $project, Plan $plan): void
    {
        foreach ($columns as $at => $column) {
            [$prefix, $uid] = [...explode(':', $column, 2), ''];
            $of = match ($prefix) {
                'code' => $plan->codeSets[$uid] ?? null,
                'own' => $plan->ownFields[$uid] ?? null,
                default => null,
            };
            if (Meaning::tryFrom($column) === null && $of?->scope !== CodeScope::Activity) {
                throw ValidationException::withMessages(["columns.{$at}" => 'This is nothing that a column can hold.']);
            }
        }
        if ($wbs !== null && ($plan->wbs[$wbs] ?? null)?->project !== $project) {
            throw ValidationException::withMessages(['wbs' => 'This WBS element does not exist (any more).']);
        }
    }
}
