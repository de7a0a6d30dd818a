<?php

declare(strict_types=1);

namespace App\Feeds;

use App\Access\Reach;
use App\OData\Model;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Todo\IcsWriter;
use Sabre\VObject\Component\VCalendar;

/**
 * A subscription as iCalendar (RFC 5545, RFC 7986): activities as whole days, handovers on the days that were promised and are
 * forecast. Nothing blocks anybody's time. The moment of an event is when its project changed last, so that what is as it was is
 * written as it was.
 *
 * @phpstan-type Event array{uid: string, summary: string, stamp: string, key: string, from: string, to: string, lines: list<string>}
 */
final readonly class CalendarFeed
{
    /** events in one calendar; the nearest ones where there are more */
    public const MOST = 5000;

    public function __construct(private Reach $reach)
    {
    }

    public function of(Subscription $s): string
    {
        $calendar = new VCalendar(['PRODID' => IcsWriter::PRODUCT, 'NAME' => $this->title($s), 'X-WR-CALNAME' => $this->title($s)]);
        $calendar->add('REFRESH-INTERVAL', 'PT1H', ['VALUE' => 'DURATION']);
        $calendar->add('X-PUBLISHED-TTL', 'PT1H');
        $events = match ($s->kind) {
            FeedKind::Handovers => $this->handovers($s->about, null),
            FeedKind::Person => [...$this->activities(static fn (Builder $q): Builder => $q->whereRaw('COALESCE(a.lead, p.lead) = ?',
                [$s->about])
                ->where(static fn (Builder $q): Builder => $q->whereIn('a.kind', ['start-milestone', 'finish-milestone'])
                    ->orWhereNotNull('a.deadline'))), ...$this->handovers(null, $s->about)],
            FeedKind::Entry => $this->activities(fn (Builder $q): Builder => $this->coded($q, (string) $s->about)),
            default => $this->activities(static fn (Builder $q): Builder => $q->where('p.uid', $s->about)),
        };
        foreach ($events as $event) {
            $component = $calendar->createComponent('VEVENT', ['UID' => "{$event['uid']}@reihe", 'SUMMARY' => $event['summary'],
                'TRANSP' => 'TRANSPARENT', 'DTSTAMP' => $event['stamp'], 'URL' => url("board?projects={$event['key']}")], false);
            $component->add('DTSTART', $event['from'], ['VALUE' => 'DATE']);
            $component->add('DTEND', $event['to'], ['VALUE' => 'DATE']);
            $component->add('DESCRIPTION', implode("\n", $event['lines']));
            $component->add('CATEGORIES', $event['key']);
            $calendar->add($component);
        }

        return $calendar->serialize();
    }

    private function title(Subscription $s): string
    {
        return match ($s->kind) {
            FeedKind::Handovers => $s->name === '' ? 'Handovers' : "Handovers of {$s->name}",
            default => $s->name,
        };
    }

    /**
     * @param  callable(Builder): Builder  $which
     * @return list<Event>
     */
    private function activities(callable $which): array
    {
        /** @var list<object{uid: string, code: string, name: string, kind: string, start: int, finish: int, key: string,
         *     stamp: string|null, percent: int, total_float: int|null, critical: int, deadline: int|null, wbs: string|null}> $rows */
        $rows = $which($this->reach->limit(DB::table('activities as a')->join(DB::raw(Model::LIVE.' p'), 'p.id', '=', 'a.project_id')
            ->join('activity_dates as d', 'd.activity_id', '=', 'a.id')->leftJoin('wbs_elements as w', 'w.id', '=', 'a.wbs_id'),
            'p.branch_id')->where('p.archived', false))->where('a.kind', '<>', 'hammock')
            ->orderByRaw('ABS(d.finish - ?), a.id', [$this->today()])->limit(self::MOST)->get(['a.uid', 'a.code', 'a.name', 'a.kind',
                'd.start', 'd.finish', 'p.key', 'd.percent', 'd.total_float', 'd.critical', 'a.deadline', 'w.name as wbs',
                self::stamp('p.uid'),
            ])->all();
        $events = [];
        foreach ($rows as $r) {
            $events[] = self::event($r->uid, "{$r->name} ({$r->key} {$r->code})", $r->stamp, $r->key, $r->start, $r->finish, [
                Instant::said($r->start).' – '.Instant::said($r->finish), ...($r->wbs === null ? [] : [$r->wbs]),
                round($r->percent / 1000).' % done',
                ...($r->total_float === null ? [] : ['Total float '.round($r->total_float / 60, 1).' h'.($r->critical ? ', critical'
                    : '')]),
                ...($r->deadline === null ? [] : ['Deadline '.Instant::said($r->deadline)])]);
        }

        return $events;
    }

    /** @return list<Event> */
    private function handovers(?string $project, ?string $person): array
    {
        $query = DB::table('links as l')->join('activities as f', 'f.id', '=', 'l.from_id')->join('activities as t', 't.id', '=', 'l.to_id')
            ->join(DB::raw(Model::LIVE.' p'), 'p.id', '=', 'l.to_project_id')->join('projects as q', 'q.id', '=', 'l.from_project_id')
            ->leftJoin('agreements as g', 'g.link_id', '=', 'l.id')->leftJoin('handover_dates as h', 'h.link_id', '=', 'l.id')
            ->where('l.handover', true)->where('p.archived', false)
            ->when($project !== null, static fn (Builder $b): Builder => $b->where(static fn (Builder $b): Builder => $b
                ->where('p.uid', $project)->orWhere('q.uid', $project)))
            ->when($person !== null, static fn (Builder $b): Builder => $b->where(static fn (Builder $b): Builder => $b
                ->where('g.giver_owner', $person)->orWhere('g.taker_owner', $person)));
        /** @var list<object{uid: string, giver: string, taker: string, given: string, taken: string, name: string, agreed: int|null,
         *     forecast: int|null, state: string|null, stamp: string|null, note: string|null}> $rows */
        $rows = $this->reach->limit($this->reach->limit($query, 'p.branch_id'), 'q.branch_id')->orderBy('l.id')->limit(self::MOST)->get([
            'l.uid', 'q.key as giver', 'p.key as taker', 'f.code as given', 't.code as taken', 'f.name', 'g.agreed', 'h.forecast',
            'h.state',
            'g.note', self::stamp('p.uid')])->all();
        $events = [];
        foreach ($rows as $r) {
            $lines = ["{$r->giver} {$r->given} gives, {$r->taker} {$r->taken} takes", ...($r->note === null ? [] : [$r->note]),
                ...($r->state === null ? [] : ["It is {$r->state}"]), ...($r->agreed === null ? [] : ['Agreed '.Instant::said($r->agreed)]),
                ...($r->forecast === null ? [] : ['Forecast '.Instant::said($r->forecast)])];
            foreach (['agreed' => $r->agreed, 'forecast' => $r->forecast] as $what => $at) {
                if ($at !== null) {
                    $events[] = self::event("{$r->uid}-{$what}", "{$r->giver} → {$r->taker}: {$r->name} ({$what})", $r->stamp, $r->taker,
                        $at,
                        $at, $lines);
                }
            }
        }

        return $events;
    }

    /** Those that have the entry or one below it, themselves or through their project. */
    private function coded(Builder $query, string $entry): Builder
    {
        $ids = DB::table('code_entries')->where('uid', $entry)->pluck('id')->all();
        for ($below = $ids; $below !== [];) {
            $below = DB::table('code_entries')->whereIn('parent_id', $below)->pluck('id')->all();
            array_push($ids, ...$below);
        }

        return $query->whereExists(static fn (Builder $q): Builder => $q->from('codings as c')->whereIn('c.entry_id', $ids)
            ->whereColumn('c.project_id', 'p.id')->where(static fn (Builder $q): Builder => $q->whereNull('c.activity_id')
            ->orWhereColumn('c.activity_id', 'a.id')));
    }

    private function today(): int
    {
        return Instant::parse(now()->format('Y-m-d'));
    }

    /** When the project changed last. */
    private static function stamp(string $project): \Illuminate\Contracts\Database\Query\Expression
    {
        return DB::raw("(SELECT MAX(c.applied_at) FROM change_set_projects y JOIN change_sets c ON c.id = y.change_set_id
            WHERE y.project_uid = {$project}) AS stamp");
    }

    /**
     * @param  list<string>  $lines
     * @return Event
     */
    private static function event(string $uid, string $summary, ?string $stamp, string $key, int $start, int $finish, array $lines): array
    {
        // what ends at midnight ends on the day before
        $last = $finish > $start ? $finish - 1 : $finish;
        $day = static fn (int $at): string => str_replace('-', '', substr(Instant::format($at), 0, 10));

        return ['uid' => $uid, 'summary' => $summary, 'stamp' => Carbon::parse($stamp ?? '2026-01-01')->utc()->format('Ymd\THis\Z'),
            'key' => $key, 'from' => $day($start), 'to' => $day($last + Instant::DAY), 'lines' => $lines];
    }
}
