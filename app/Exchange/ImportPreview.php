<?php

declare(strict_types=1);

namespace App\Exchange;

use App\Access\Reach;
use App\Models\ChangeSet;
use App\Models\User;
use App\Planning\ChangeRequest;
use App\Planning\Planning;
use App\Planning\RippleView;
use Illuminate\Support\Str;
use Reihe\Core\Change\Operation;
use Reihe\Core\Change\Verb;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Schedule\ActivityDates;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;
use Reihe\Formats\PlanXml\TheirDates;
use Reihe\Formats\Text;

/** Reads a file, tries what it would do, and keeps that as a proposal of whoever brought it. */
final class ImportPreview
{
    /** lines of the mapping that are shown */
    private const LINES = 500;

    /**
     * @param  callable(string, int, int): void|null  $tick  hears the step, what is done of it and of how much (0: not known)
     * @return array<string, mixed>
     */
    public static function of(string $content, string $name, string $branch, User $user, Reading $reading,
        ?callable $tick = null): array
    {
        $reach = Reach::of($user);
        $import = Importer::import($content, $name, $branch, $reach, $reading, $tick);
        $tick === null ?: $tick('calculating', 0, 0);
        $outcome = (new Planning($user))->dryRun(new ChangeRequest($import->operations, source: 'import'));
        $stored = ChangeSet::query()->create(['uid' => (string) Str::ulid(), 'author_id' => $user->id, 'source' => 'import',
            'state' => 'proposed',
            'reason' => mb_substr(Text::clean(mb_scrub($name, 'UTF-8')), 0, 500), 'operations' => $import->operations,
            'operation_count' => count($import->operations), 'ripple' => $outcome->ripple, 'created_at' => now(),
            'exchanged_with' => mb_substr($import->source, 0, 190), 'identities' => $import->identities,
            'baselines' => $import->baselines === [] ? null : $import->baselines]);
        $schedule = $outcome->schedule ?? throw new \LogicException('a dry run has a schedule');
        $network = $schedule->network;
        $theirs = self::theirDates($import, $schedule);
        $activities = array_count_values($network->project);
        $number = array_flip($network->projectUid);
        $projects = [];
        foreach ($import->operations as $o) {
            if ($o->kind === EntityKind::Project && $o->verb === Verb::Create) {
                $p = $number[$o->uid];
                $projects[] = ['uid' => $o->uid, 'key' => $o->after['key'] ?? '', 'name' => $o->after['name'] ?? '',
                    'activities' => $activities[$p] ?? 0, 'finish' => Instant::formatOrNull($schedule->dates->ownEnd[$p])];
            }
        }

        $counts = array_count_values(array_map(static fn (Operation $o): string => $o->kind->value, array_filter($import->operations,
            static fn (Operation $o): bool => $o->verb === Verb::Create)));

        $said = ['changeSet' => $stored->uid, 'format' => $import->format->value,
            'notes' => [...$import->notes, ...($theirs === null ? [] : [$theirs])], 'projects' => $projects,
            'mapping' => array_map(static fn (MappingLine $l): array => $l->shown(), array_slice($import->mapping, 0, self::LINES)),
            'update' => $import->updating === null ? null : ['states' => $import->updating->states,
                'operations' => count($import->operations), 'changes' => $import->updating->changes,
                'conflicts' => $import->updating->conflicts, 'missing' => $import->updating->missing],
            'counts' => (object) $counts];
        $stored->update(['preview' => $said + ['branches' => $reach->branches()]]);

        return $said + ['ripple' => RippleView::of($outcome->ripple, $reach)];
    }

    /**
     * @return array<string, mixed>|null what was said of the file; null where nothing was, or where its author sees less than then: a
     *     note or a line of the mapping may name what is hidden now
     */
    public static function again(ChangeSet $proposal, Reach $reach): ?array
    {
        $said = $proposal->preview;
        $covered = $said === null || $reach->covers($said['branches'] ?? null);
        unset($said['branches']);

        return $said === null || ! $covered ? null : ['counts' => (object) (is_array($said['counts'] ?? null) ? $said['counts'] : [])]
            + $said
            + ['ripple' => RippleView::of($proposal->ripple, $reach)];
    }

    /** What is updated without a change that matters here is not calculated again. */
    private static function theirDates(Import $import, Schedule $after): ?string
    {
        $in = static fn (Schedule $s, string $uid): bool => isset($s->plan->activities[$uid]);
        $of = static fn (string $uid): Schedule => $import->before === null || $in($after, $uid) ? $after : $import->before;
        $known = array_filter($import->computed, static fn (string $uid): bool => $in($of($uid), $uid), ARRAY_FILTER_USE_KEY);

        return TheirDates::compare($known, static fn (string $uid): ActivityDates => $of($uid)->activity($uid),
            static fn (string $uid): string => $of($uid)->plan->label($uid));
    }
}
