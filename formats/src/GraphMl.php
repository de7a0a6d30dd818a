<?php

declare(strict_types=1);

namespace Reihe\Formats;

use Reihe\Core\Plan\AssignedWork;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Schedule\Schedule;
use Reihe\Core\Time\Instant;
use XMLWriter;

/**
 * The network as a directed graph in GraphML (graphml.graphdrawing.org, GraphML 1.0): activities and stubs as nodes with dates and floats,
 * links as edges from predecessor to successor. Moments are ISO 8601, durations, lags and floats working minutes.
 */
final class GraphMl
{
    private const NODE = ['label' => 'string', 'name' => 'string', 'project' => 'string', 'wbs' => 'string', 'kind' => 'string',
        'duration' => 'int', 'earlyStart' => 'string', 'earlyFinish' => 'string', 'lateStart' => 'string', 'lateFinish' => 'string',
        'totalFloat' => 'int', 'freeFloat' => 'int', 'critical' => 'boolean', 'progress' => 'double'];

    private const EDGE = ['type' => 'string', 'lag' => 'int', 'float' => 'int', 'driving' => 'boolean', 'handover' => 'boolean'];

    /** kind => fields that nodes and edges say */
    private const CARRIED = ['activity' => ['project', 'wbs', 'code', 'name', 'kind', 'duration'],
        'link' => ['from', 'to', 'type', 'lag'], 'project' => ['key']];

    public static function write(Schedule $schedule): string
    {
        $plan = $schedule->plan;
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->setIndentString('  ');
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs(null, 'graphml', 'http://graphml.graphdrawing.org/xmlns');
        foreach (['node' => self::NODE, 'edge' => self::EDGE] as $for => $keys) {
            foreach ($keys as $name => $type) {
                self::element($xml, 'key', ['id' => "{$for}-{$name}", 'for' => $for, 'attr.name' => $name, 'attr.type' => $type]);
            }
        }
        $xml->startElement('graph');
        foreach (['id' => 'plan', 'edgedefault' => 'directed'] as $name => $value) {
            $xml->writeAttribute($name, $value);
        }
        $lost = self::lost($plan);
        $lost === [] ?: $xml->writeElement('desc', 'Not carried: '.implode('; ', $lost).'.');
        $work = AssignedWork::of($plan);
        foreach ($plan->activities as $uid => $a) {
            $d = $schedule->activity((string) $uid);
            self::element($xml, 'node', ['id' => self::token((string) $uid)], 'node', [
                'label' => $plan->label((string) $uid), 'name' => $a->name,
                'project' => $plan->projects[$a->project]->key, 'wbs' => $a->wbs === null ? null : $plan->wbs[$a->wbs]->name,
                'kind' => $a->kind->value, 'duration' => $a->duration, 'earlyStart' => Instant::format($d->earlyStart),
                'earlyFinish' => Instant::format($d->earlyFinish), 'lateStart' => Instant::formatOrNull($d->lateStart),
                'lateFinish' => Instant::formatOrNull($d->lateFinish), 'totalFloat' => $d->totalFloat, 'freeFloat' => $d->freeFloat,
                'critical' => $d->critical, 'progress' => $a->percent($work[$uid] ?? new AssignedWork) / 100_000]);
        }
        foreach ($plan->stubs as $uid => $stub) {
            self::element($xml, 'node', ['id' => self::token((string) $uid)], 'node', [
                'label' => $stub->code, 'name' => $stub->name, 'kind' => 'stub',
                'earlyStart' => Instant::format($stub->start), 'earlyFinish' => Instant::format($stub->finish)]);
        }
        $edges = array_flip($schedule->network->linkUid);
        foreach ($plan->links as $uid => $link) {
            $k = $edges[$uid] ?? null;
            self::element($xml, 'edge', ['id' => self::token((string) $uid), 'source' => self::token($link->from),
                'target' => self::token($link->to)], 'edge', [
                    'type' => $link->type->value, 'lag' => $link->lag, 'float' => $k === null ? null : $schedule->dates->linkFloat[$k],
                    'driving' => $k !== null && $schedule->dates->driving[$k], 'handover' => $plan->isHandover($link)]);
        }
        $xml->endElement();
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    /**
     * What nodes and edges have no place for. The file says it itself.
     *
     * @return list<string> like `3 remarks` and `deadline of 2 activities`
     */
    public static function lost(Plan $plan): array
    {
        $lost = [];
        foreach (EntityKind::cases() as $kind) {
            $all = $plan->all($kind);
            if (! isset(self::CARRIED[$kind->value])) {
                $all === [] ?: $lost[] = $kind->entry()->counted(count($all));

                continue;
            }
            $counts = [];
            foreach ($all as $object) {
                foreach (array_diff_key($kind->brief($object->fields()), array_flip(self::CARRIED[$kind->value])) as $field => $value) {
                    $counts[$field] = ($counts[$field] ?? 0) + ($value === null || $value === [] ? 0 : 1);
                }
            }
            foreach (array_filter($counts) as $field => $count) {
                $lost[] = "{$field} of ".$kind->entry()->counted($count);
            }
        }

        return $lost;
    }

    /** Ids are NMTOKENs, which know no @; told apart from what is written like it. */
    private static function token(string $uid): string
    {
        return strtr($uid, [':' => '::', '@' => ':at']);
    }

    /**
     * @param  array<string, string>  $attributes
     * @param  array<string, mixed>  $data  null is left out
     */
    private static function element(XMLWriter $xml, string $name, array $attributes, string $for = '', array $data = []): void
    {
        $xml->startElement($name);
        foreach ($attributes as $attribute => $value) {
            $xml->writeAttribute($attribute, $value);
        }
        foreach ($data as $key => $value) {
            if (is_scalar($value)) {
                $xml->startElement('data');
                $xml->writeAttribute('key', "{$for}-{$key}");
                $xml->text(is_bool($value) ? ($value ? 'true' : 'false') : (is_float($value) ? Text::decimal($value) : (string) $value));
                $xml->endElement();
            }
        }
        $xml->endElement();
    }
}
