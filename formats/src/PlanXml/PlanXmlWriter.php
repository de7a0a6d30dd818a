<?php

declare(strict_types=1);

namespace Reihe\Formats\PlanXml;

use Reihe\Core\Plan\Activity;
use Reihe\Core\Plan\CodeEntry;
use Reihe\Core\Plan\CodeSet;
use Reihe\Core\Plan\Coding;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Foreign;
use Reihe\Core\Plan\ForeignFormat;
use Reihe\Core\Plan\LevelCode;
use Reihe\Core\Plan\OwnField;
use Reihe\Core\Plan\OwnValue;
use Reihe\Core\Plan\PercentBy;
use Reihe\Core\Plan\Plan;
use Reihe\Core\Plan\Project;
use Reihe\Core\Plan\WbsElement;
use Reihe\Core\Time\Instant;
use Reihe\Formats\Text;
use XMLWriter;

/** Writes a plan as Reihe plan XML (plan.xsd), lossless. */
final class PlanXmlWriter
{
    /** of what is written; older ones are read */
    public const VERSION = '1.1';

    public const NAMESPACE = 'urn:reihe:plan:1';

    /** @var array<string, array<string, list<WbsElement|Activity>>> project uid => parent uid or '' => children in order */
    private array $children = [];

    private function __construct(private readonly Plan $plan, private readonly XMLWriter $xml, private readonly Told $told)
    {
    }

    public static function write(Plan $plan, Told $told = new Told): string
    {
        $xml = new XMLWriter;
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->setIndentString('  ');
        (new self($plan, $xml, $told))->document();

        return $xml->outputMemory();
    }

    /**
     * @var array<string, list<array{string, array<string, mixed>}>> uid of an activity or project => elements that stand on it, with
     *     attributes
     */
    private array $attached = [];

    /** @var array<string, list<Coding>> uid of what is coded => how */
    private array $codings = [];

    /** @var array<string, list<OwnValue>> uid of what has them => values in own fields */
    private array $ownValues = [];

    /** @var array<string, list<Foreign>> by object */
    private array $foreign = [];

    private function document(): void
    {
        foreach ($this->plan->wbs as $element) {
            $this->children[$element->project][$element->parent ?? ''][] = $element;
        }
        foreach ($this->plan->activities as $activity) {
            $this->children[$activity->project][$activity->wbs ?? ''][] = $activity;
        }
        foreach ($this->plan->codings as $coding) {
            $this->codings[$coding->activity ?? $coding->project][] = $coding;
        }
        foreach ($this->plan->foreignContents as $content) {
            $this->foreign[$content->of()][] = $content;
        }
        foreach ($this->plan->ownValues as $value) {
            $this->ownValues[$value->activity ?? $value->project][] = $value;
        }
        foreach (Attributes::kinds() as $kind) {
            foreach ($this->plan->all($kind) as $object) {
                $fields = $object->fields();
                $on = $fields['activity'] ?? $fields['project'] ?? null;
                if (is_string($fields['resource'] ?? null)) {
                    $fields['resource'] = $this->plan->resources[$fields['resource']]->key;
                }
                $this->attached[is_string($on) ? $on : ''][] = [$kind->value,
                    ['uid' => $object->uid()] + array_diff_key(Attributes::written($kind, $fields), ['activity' => 0, 'project' => 0])];
            }
        }
        $this->xml->startDocument('1.0', 'UTF-8');
        $this->xml->startElementNs(null, 'plan', self::NAMESPACE);
        $this->attributes(['version' => self::VERSION, 'written' => Instant::formatOrNull($this->told->written),
            'source' => $this->told->source, 'timeZone' => $this->told->timeZone, 'currency' => $this->told->currency,
            'without' => $this->told->without === [] ? null : implode(' ', $this->told->without)]);
        $this->calendars();
        foreach ($this->sorted($this->plan->codeSets) as $set) {
            $this->xml->startElement('codeSet');
            // roles and branches are a matter of each enterprise
            $this->attributes(['uid' => $set->uid] + array_diff_key(EntityKind::CodeSet->brief($set->fields()),
                ['position' => 0, 'assignedBy' => 0, 'addedBy' => 0, 'editedBy' => 0, 'demandedOn' => 0]));
            $this->entries($set, null);
            $this->xml->endElement();
        }
        foreach ($this->sorted($this->plan->ownFields) as $field) {
            $this->xml->startElement('ownField');
            $this->attributes(['uid' => $field->uid]
                + array_diff_key(EntityKind::OwnField->brief($field->fields()), ['position' => 0, 'choices' => 0]));
            foreach ($field->choices as $choice) {
                $this->xml->startElement('choice');
                $this->attributes(['name' => $choice->name]);
                $this->xml->endElement();
            }
            $this->xml->endElement();
        }
        $this->levelSchemes();
        foreach ($this->plan->resources as $resource) {
            $this->xml->startElement('resource');
            $this->attributes(['uid' => $resource->uid] + array_replace(Attributes::written(EntityKind::Resource, $resource->fields()),
                ['calendar' => $resource->calendar === null ? null : $this->plan->calendars[$resource->calendar]->key]));
            $this->xml->endElement();
        }
        foreach ($this->told->hierarchy->branches as $path => $branch) {
            $this->xml->startElement('branch');
            $this->attributes(['path' => (string) $path, 'lead' => $branch['lead'], 'archived' => $branch['archived'] ? true : null]);
            $this->xml->endElement();
        }
        foreach ($this->plan->projects as $project) {
            $this->project($project);
        }
        foreach ($this->plan->stubs as $stub) {
            $this->xml->startElement('stub');
            $this->attributes(['uid' => $stub->uid, 'code' => $stub->code, 'name' => $stub->name, 'start' => Instant::format($stub->start),
                'finish' => Instant::format($stub->finish), 'source' => $stub->source, 'asOf' => Instant::formatOrNull($stub->asOf)]);
            $this->xml->endElement();
        }
        foreach ($this->plan->links as $link) {
            $this->xml->startElement('link');
            $this->attributes(['uid' => $link->uid, 'from' => $this->plan->label($link->from), 'to' => $this->plan->label($link->to)]
                + array_diff_key($link->fields(), ['from' => 0, 'to' => 0]));
            $this->xml->endElement();
        }
        $this->xml->endElement();
        $this->xml->endDocument();
    }

    private function levelSchemes(): void
    {
        $codes = [];
        foreach ($this->plan->levelCodes as $code) {
            $codes["{$code->scheme} {$code->parent}"][] = $code;
        }
        foreach ($this->plan->levelSchemes as $scheme) {
            $this->xml->startElement('levelScheme');
            $this->attributes(['uid' => $scheme->uid, 'key' => $scheme->key, 'name' => $scheme->name]);
            $fields = $scheme->fields();
            foreach (['level' => 'levels', 'codeSegment' => 'activityCode', 'nameSegment' => 'activityName'] as $element => $list) {
                /** @var list<array<string, mixed>> $items */
                $items = $fields[$list];
                foreach ($items as $item) {
                    $this->xml->startElement($element);
                    $this->attributes(array_filter($item, static fn (mixed $v): bool => $v !== ''));
                    $this->xml->endElement();
                }
            }
            $this->levelCodes($codes, $scheme->uid, null);
            $this->xml->endElement();
        }
    }

    /** @param  array<string, list<LevelCode>>  $codes  scheme and parent => codes */
    private function levelCodes(array $codes, string $scheme, ?string $parent): void
    {
        $list = $codes["{$scheme} {$parent}"] ?? [];
        usort($list, static fn (LevelCode $a, LevelCode $b): int => [$a->level, $a->position] <=> [$b->level, $b->position]);
        foreach ($list as $code) {
            $this->xml->startElement('levelCode');
            $this->attributes(['uid' => $code->uid, 'level' => $code->level, 'code' => $code->code, 'name' => $code->name,
                'below' => $code->below]);
            $this->levelCodes($codes, $scheme, $code->uid);
            $this->xml->endElement();
        }
    }

    private function calendars(): void
    {
        foreach ($this->plan->calendars as $calendar) {
            $fields = $calendar->fields();
            $this->xml->startElement('calendar');
            $this->attributes(['uid' => $calendar->uid, 'key' => $calendar->key, 'name' => $calendar->name,
                'base' => $calendar->base === null ? null : $this->plan->calendars[$calendar->base]->key,
                'minutesPerDay' => $calendar->minutesPerDay, 'retired' => $calendar->retired ? 'true' : null]);
            /** @var array<int, string> $week */
            $week = $fields['week'];
            foreach ($week as $weekday => $hours) {
                $this->xml->startElement('day');
                $this->attributes(['weekday' => $weekday, 'hours' => $hours]);
                $this->xml->endElement();
            }
            /** @var list<array{date: string, periods: string, name: string}> $exceptions */
            $exceptions = $fields['exceptions'];
            foreach ($exceptions as $exception) {
                $this->xml->startElement('exception');
                $this->attributes(['date' => $exception['date'], 'hours' => $exception['periods'], 'name' => $exception['name']]);
                $this->xml->endElement();
            }
            $this->xml->endElement();
        }
    }

    private function entries(CodeSet $set, ?string $parent): void
    {
        foreach ($this->sorted(array_filter($this->plan->entries, static fn (CodeEntry $e): bool => $e->codeSet === $set->uid
            && $e->parent === $parent)) as $entry) {
            $this->xml->startElement('entry');
            $this->attributes(['uid' => $entry->uid]
                            + array_diff_key(EntityKind::Entry->brief($entry->fields()), ['position' => 0, 'codeSet' => 0, 'parent' => 0]));
            $this->entries($set, $entry->uid);
            $this->xml->endElement();
        }
    }

    /**
     * @template T of CodeSet|CodeEntry|OwnField
     *
     * @param  array<string, T>  $list
     * @return array<string, T>
     */
    private function sorted(array $list): array
    {
        uasort($list, static fn (CodeSet|CodeEntry|OwnField $a, CodeSet|CodeEntry|OwnField $b): int => $a->position <=> $b->position);

        return $list;
    }

    /** What a project or an activity is coded with, and has in own fields. */
    private function codings(string $object): void
    {
        foreach ($this->codings[$object] ?? [] as $coding) {
            $entry = $this->plan->entries[$coding->entry];
            $this->xml->startElement('code');
            $this->attributes(['uid' => $coding->uid, 'set' => $this->plan->codeSets[$entry->codeSet]->key, 'entry' => $entry->key]);
            $this->xml->endElement();
        }
        foreach ($this->ownValues[$object] ?? [] as $value) {
            $this->xml->startElement('own');
            $this->attributes(['uid' => $value->uid, 'field' => $this->plan->ownFields[$value->field]->key, 'value' => $value->value]);
            $this->xml->endElement();
        }
    }

    private function project(Project $project): void
    {
        $this->xml->startElement('project');
        $fields = array_diff_key($project->fields(), array_flip(Project::STANDING) + ($project->archived ? [] : ['archived' => 0]));
        $this->attributes(['uid' => $project->uid] + array_replace($fields,
            ['calendar' => $this->plan->calendars[$project->calendar]->key])
            + ['levelScheme' => $project->levelScheme === null ? null : $this->plan->levelSchemes[$project->levelScheme]->key,
                'path' => $this->told->hierarchy->of[$project->uid] ?? null]);
        $this->foreignAttributes($project->uid);
        $this->codings($project->uid);
        $this->attached($project->uid);
        $this->insertions($project->uid);
        $this->baselines($project->uid);
        $this->foreignContents($project->uid);
        $this->rows($project->uid, '');
        $this->foreignElements($project->uid);
        $this->xml->endElement();
    }

    private function insertions(string $project): void
    {
        foreach ($this->plan->insertions as $insertion) {
            if ($insertion->project !== $project) {
                continue;
            }
            $this->xml->startElement('insertion');
            $this->attributes(['uid' => $insertion->uid]
                + array_diff_key(EntityKind::Insertion->brief($insertion->fields()), ['project' => 0, 'pairs' => 0]));
            foreach ($insertion->pairs as $pair) {
                $this->xml->startElement('pair');
                $this->attributes(['of' => $pair->of, 'made' => $pair->made]);
                $this->xml->endElement();
            }
            $this->xml->endElement();
        }
    }

    private function baselines(string $project): void
    {
        foreach ($this->told->baselines as [$b, $current]) {
            if ($b->project !== $project) {
                continue;
            }
            $this->xml->startElement('baseline');
            $this->attributes(['uid' => $b->uid, 'name' => $b->name, 'taken' => Instant::format($b->taken),
                'current' => $current ? 'true' : null]);
            $lists = ['project' => $b->total === null ? [] : [$b->total], 'wbs' => $b->wbs, 'activity' => $b->activities];
            foreach ($lists as $kind => $rows) {
                foreach ($rows as $uid => $row) {
                    /** @var array<string, int|string> $figures */
                    $figures = get_object_vars($row);
                    $this->xml->startElement('row');
                    $this->attributes(['kind' => $kind === 'activity' ? null : $kind, 'of' => $kind === 'project' ? null : $uid,
                        'start' => Instant::format($row->start), 'finish' => Instant::format($row->finish)]
                        + array_filter($figures, static fn (int|string $v): bool => $v !== 0 && $v !== ''));
                    $this->xml->endElement();
                }
            }
            $this->xml->endElement();
        }
    }

    private function rows(string $project, string $parent): void
    {
        $children = $this->children[$project][$parent] ?? [];
        usort($children, static fn (WbsElement|Activity $a, WbsElement|Activity $b): int => $a->position <=> $b->position);
        foreach ($children as $child) {
            if ($child instanceof WbsElement) {
                $this->xml->startElement('wbs');
                $this->attributes(['uid' => $child->uid, 'code' => $child->code, 'name' => $child->name,
                    'deadline' => Instant::formatOrNull($child->deadline)]);
                $this->foreignAttributes($child->uid);
                $this->foreignContents($child->uid);
                $this->rows($project, $child->uid);
                $this->foreignElements($child->uid);
            } else {
                $this->activity($child);
            }
            $this->xml->endElement();
        }
    }

    private function activity(Activity $activity): void
    {
        $this->xml->startElement('activity');
        $fields = array_diff_key($activity->fields(), ['project' => 0, 'wbs' => 0, 'position' => 0, 'constraints' => 0, 'checklist' => 0]);
        $this->attributes(['uid' => $activity->uid] + array_replace($fields, [
            'calendar' => $activity->calendar === null ? null : $this->plan->calendars[$activity->calendar]->key,
            'estimate' => $activity->estimate ? 'true' : null,
            'levelDelay' => $activity->levelDelay === 0 ? null : $activity->levelDelay,
            'percentBy' => $activity->measure->percentBy === PercentBy::Duration ? null : $activity->measure->percentBy->value,
        ]));
        $this->foreignAttributes($activity->uid);
        foreach ($activity->measure->checklist as $item) {
            $this->xml->startElement('item');
            $this->attributes(['name' => $item->name, 'weight' => $item->weight, 'done' => $item->done ? 'true' : null]);
            $this->xml->endElement();
        }
        foreach ($activity->constraints as $constraint) {
            $this->xml->startElement('constraint');
            $this->attributes(['kind' => $constraint->kind->value, 'date' => Instant::formatOrNull($constraint->date)]);
            $this->xml->endElement();
        }
        $this->codings($activity->uid);
        $this->attached($activity->uid);
        $this->foreignContents($activity->uid);
        if ($this->told->computed !== null) {
            $d = $this->told->computed->activity($activity->uid);
            $this->xml->startElement('computed');
            $this->attributes(['earlyStart' => Instant::format($d->earlyStart), 'earlyFinish' => Instant::format($d->earlyFinish),
                'lateStart' => Instant::formatOrNull($d->lateStart), 'lateFinish' => Instant::formatOrNull($d->lateFinish),
                'totalFloat' => $d->totalFloat, 'freeFloat' => $d->freeFloat, 'critical' => $d->critical ? 'true' : null]);
            $this->xml->endElement();
        }
        $this->foreignElements($activity->uid);
    }

    private function foreignAttributes(string $object): void
    {
        foreach ($this->foreign[$object] ?? [] as $content) {
            $content->format !== ForeignFormat::Xml ?: ForeignXml::write($this->xml, $content->content, true);
        }
    }

    private function foreignContents(string $object): void
    {
        foreach ($this->foreign[$object] ?? [] as $content) {
            if ($content->format !== ForeignFormat::Xml || ForeignXml::read($content->content) !== [[], []]) {
                $this->xml->startElement('foreign');
                $this->attributes(['uid' => $content->uid, 'format' => $content->format->value,
                    'content' => $content->format === ForeignFormat::Xml ? null : $content->content]);
                $this->xml->endElement();
            }
        }
    }

    private function foreignElements(string $object): void
    {
        foreach ($this->foreign[$object] ?? [] as $content) {
            $content->format !== ForeignFormat::Xml ?: ForeignXml::write($this->xml, $content->content, false);
        }
    }

    private function attached(string $object): void
    {
        foreach ($this->attached[$object] ?? [] as [$element, $attributes]) {
            $this->xml->startElement($element);
            $this->attributes($attributes);
            $this->xml->endElement();
        }
    }

    /** @param  array<string, mixed>  $attributes null is left out */
    private function attributes(array $attributes): void
    {
        foreach ($attributes as $name => $value) {
            if (is_scalar($value)) {
                $this->xml->writeAttribute($name,
                    is_float($value) ? Text::decimal($value) : (is_bool($value) ? ($value ? 'true' : 'false') : (string) $value));
            }
        }
    }
}
