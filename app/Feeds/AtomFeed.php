<?php

declare(strict_types=1);

namespace App\Feeds;

use App\Access\Reach;
use App\History\ChangeSetReach;
use App\OData\Model;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Reihe\Core\Time\Instant;
use Reihe\Core\Time\Zone;
use XMLWriter;

/**
 * A subscription as Atom (RFC 4287): change sets, handovers at risk or late, baselines; the latest first, at most a hundred. Ids are
 * those of the objects (RFC 4287, section 4.2.6: permanent and universally unique), as URNs of the enterprise.
 *
 * @phpstan-type Entry array{id: string, title: string, updated: string, author: string|null, link: string, projects: list<string>,
 *     text: string}
 */
final readonly class AtomFeed
{
    private const MOST = 100;

    public function __construct(private Reach $reach)
    {
    }

    public function of(Subscription $s, string $address): string
    {
        $enterprise = DB::table('enterprise')->value('uid');
        $base = 'urn:reihe:'.rawurlencode(is_string($enterprise) ? $enterprise : '').':';
        $entries = match ($s->kind) {
            FeedKind::Risks => $this->risks($s->about),
            FeedKind::Baselines => $this->baselines($s->about),
            default => $this->changes($s->about),
        };
        $of = $s->name === '' ? '' : " – {$s->name}";
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs(null, 'feed', 'http://www.w3.org/2005/Atom');
        $xml->writeElement('id', "{$base}feed:{$s->kind->value}:{$s->id}");
        $xml->writeElement('title', self::plain(match ($s->kind) {
            FeedKind::Risks => 'Handovers at risk',
            FeedKind::Baselines => 'Baselines',
            default => 'Changes',
        }.$of));
        $xml->writeElement('updated', self::moment($entries === [] ? null : max(array_column($entries, 'updated'))));
        $xml->startElement('author');
        $xml->writeElement('name', 'Reihe');
        $xml->endElement();
        self::link($xml, 'self', $address, 'application/atom+xml');
        self::link($xml, 'alternate', url('/'), 'text/html');
        foreach ($entries as $entry) {
            $xml->startElement('entry');
            $xml->writeElement('id', $base.$entry['id']);
            $xml->writeElement('title', self::plain($entry['title']));
            $xml->writeElement('updated', self::moment($entry['updated']));
            $xml->startElement('author');
            $xml->writeElement('name', self::plain($entry['author'] ?? 'Reihe'));
            $xml->endElement();
            self::link($xml, 'alternate', url($entry['link']), 'text/html');
            foreach ($entry['projects'] as $key) {
                $xml->startElement('category');
                $xml->writeAttribute('term', $key);
                $xml->endElement();
            }
            $xml->startElement('content');
            $xml->writeAttribute('type', 'text');
            $xml->text(self::plain($entry['text']));
            $xml->endElement();
            $xml->endElement();
        }
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    /** @return list<Entry> */
    private function changes(?string $project): array
    {
        $sets = new ChangeSetReach($this->reach);
        $projects = array_map(strval(...), array_keys($this->reach->projects()));
        $rows = DB::table('change_sets as c')->leftJoin('users as v', 'v.id', '=', 'c.author_id')->whereIn('c.state', ['applied', 'undone'])
            ->whereIn('c.id', $sets->touching($project === null ? $projects : array_values(array_intersect($projects, [$project]))))
            ->orderByDesc('c.applied_at')->orderByDesc('c.id')->limit(self::MOST)
            ->get(['c.id', 'c.uid', 'c.source', 'c.reason', 'c.state', 'c.operation_count', 'c.applied_at', 'c.created_at', 'v.name'])
            ->all();
        $hidden = $sets->touchingHidden(array_column($rows, 'id'));
        $keys = [];
        foreach (DB::table('change_set_projects as t')->join('projects as p', 'p.uid', '=', 't.project_uid')->whereIn('p.uid', $projects)
            ->whereIn('t.change_set_id', array_column($rows, 'id'))->orderBy('p.key')->get(['t.change_set_id', 'p.key']) as $touched) {
            /** @var object{change_set_id: int, key: string} $touched */
            $keys[$touched->change_set_id][] = $touched->key;
        }
        $entries = [];
        /** @var object{id: int, uid: string, source: string, reason: string, state: string, operation_count: int, applied_at: string|null,
         *     created_at: string, name: string|null} $r */
        foreach ($rows as $r) {
            $reason = isset($hidden[$r->id]) ? '' : $r->reason;
            $of = $keys[$r->id] ?? [];
            $n = $r->operation_count;
            $entries[] = ['id' => "change:{$r->uid}", 'title' => $reason !== '' ? $reason : 'Change of '.implode(', ', array_slice($of, 0,
                5)),
                'updated' => $r->applied_at ?? $r->created_at, 'author' => $r->name, 'projects' => $of,
                'link' => 'board?projects='.rawurlencode(implode(',', array_slice($of, 0, 10))),
                'text' => "{$n} ".($n === 1 ? 'object was' : 'objects were').' made, changed or deleted ('.$r->source.') in '
                    .implode(', ', $of).($r->state === 'undone' ? '. It was undone since.' : '.')];
        }

        return $entries;
    }

    /** @return list<Entry> */
    private function risks(?string $project): array
    {
        $query = DB::table('handover_dates as h')->join('links as l', 'l.id', '=', 'h.link_id')->join('activities as f', 'f.id', '=',
            'l.from_id')
            ->join('activities as t', 't.id', '=', 'l.to_id')->join(DB::raw(Model::LIVE.' p'), 'p.id', '=', 'l.to_project_id')
            ->join('projects as q', 'q.id', '=', 'l.from_project_id')->leftJoin('agreements as g', 'g.link_id', '=', 'l.id')
            ->whereIn('h.state', ['at-risk', 'late'])->where('p.archived', false)
            ->when($project !== null, static fn (Builder $b): Builder => $b->where(static fn (Builder $b): Builder => $b
                ->where('p.uid', $project)->orWhere('q.uid', $project)));
        // since the change set that made this revision of the taker's project
        $since = DB::raw('(SELECT MAX(c.applied_at) FROM change_set_projects y JOIN change_sets c ON c.id = y.change_set_id
            WHERE y.project_uid = p.uid AND y.revision <= GREATEST(h.revision, 1)) AS since');
        /** @var list<object{uid: string, state: string, margin: int|null, forecast: int|null, agreed: int|null, giver: string,
         *     taker: string,     name: string, wants: string, since: string|null}> $rows */
        $rows = $this->reach->limit($this->reach->limit($query, 'p.branch_id'), 'q.branch_id')->orderByDesc('since')->orderBy('l.id')
            ->limit(self::MOST)->get(['l.uid', 'h.state', 'h.margin', 'h.forecast', 'g.agreed', 'q.key as giver', 'p.key as taker',
                'f.name',
                't.name as wants', $since])->all();
        $entries = [];
        foreach ($rows as $r) {
            $entries[] = ['id' => "handover:{$r->uid}:{$r->state}", 'title' => "{$r->giver} → {$r->taker}: {$r->name} is "
                .($r->state === 'late' ? 'late' : 'at risk'), 'updated' => $r->since ?? '2026-01-01 00:00:00', 'author' => null,
                'projects' => [$r->giver, $r->taker], 'link' => "board?projects={$r->giver},{$r->taker}",
                'text' => ($r->agreed === null ? '' : 'Agreed '.Instant::said($r->agreed).'. ')
                    .($r->forecast === null ? '' : 'Forecast '.Instant::said($r->forecast).'. ')
                    .($r->margin === null ? '' : 'Margin '.round($r->margin / 60, 1).' h. ')."{$r->wants} waits for it."];
        }

        return $entries;
    }

    /** @return list<Entry> */
    private function baselines(?string $project): array
    {
        /** @var list<object{uid: string, name: string, taken: int, current: int, author: string|null, key: string,
         *     project: string}> $rows */
        $rows = $this->reach->limit(DB::table('baselines as b')->join(DB::raw(Model::LIVE.' p'), 'p.uid', '=', 'b.project_uid')
            ->leftJoin('users as v', 'v.id', '=', 'b.author_id'), 'p.branch_id')
            ->when($project !== null, static fn (Builder $b): Builder => $b->where('p.uid', $project))->orderByDesc('b.taken')
            ->orderByDesc('b.id')->limit(self::MOST)
            ->get(['b.uid', 'b.name', 'b.taken', 'b.current', 'v.name as author', 'p.key', 'p.name as project'])->all();
        $entries = [];
        foreach ($rows as $r) {
            $entries[] = ['id' => "baseline:{$r->uid}", 'title' => "{$r->key}: {$r->name}",
                'updated' => Instant::format(app(Zone::class)->utc($r->taken)).':00',
                'author' => $r->author, 'projects' => [$r->key], 'link' => "board?projects={$r->key}",
                'text' => "Baseline of {$r->project}".($r->current ? ', the one it is compared with.' : '.')];
        }

        return $entries;
    }

    private static function link(XMLWriter $xml, string $relation, string $address, string $type): void
    {
        $xml->startElement('link');
        $xml->writeAttribute('rel', $relation);
        $xml->writeAttribute('href', $address);
        $xml->writeAttribute('type', $type);
        $xml->endElement();
    }

    private static function moment(?string $at): string
    {
        return Carbon::parse($at ?? '2026-01-01')->utc()->format('Y-m-d\TH:i:s\Z');
    }

    /** Without what XML cannot carry (XML 1.0, section 2.2). */
    private static function plain(string $text): string
    {
        return preg_replace('/[^\x{9}\x{A}\x{D}\x{20}-\x{D7FF}\x{E000}-\x{FFFD}\x{10000}-\x{10FFFF}]/u', '', $text) ?? '';
    }
}
