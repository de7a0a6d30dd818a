<?php

declare(strict_types=1);

namespace Tests\App;

/** An object of every kind, made by a change set. */
trait EveryObject
{
    private const TASK = 'act-grid-st-0030';

    /**
     * Objects that hold nothing else, so that any field of theirs may be changed alone.
     *
     * @return list<array<string, mixed>> operations
     */
    private static function operations(): array
    {
        return [
            self::made('codeSet', 'set-free', ['scope' => 'activity', 'key' => 'FREE', 'name' => 'Free']),
            self::made('codeSet', 'set-other', ['scope' => 'project', 'key' => 'OTHER', 'name' => 'Other']),
            self::made('codeSet', 'set-used', ['scope' => 'activity', 'key' => 'USED', 'name' => 'Used']),
            self::made('entry', 'entry-a', ['codeSet' => 'set-used', 'key' => 'A', 'name' => 'A']),
            self::made('entry', 'entry-b', ['codeSet' => 'set-used', 'key' => 'B', 'name' => 'B']),
            self::made('entry', 'entry-free', ['codeSet' => 'set-other', 'key' => 'FREE', 'name' => 'Free']),
            self::made('wbs', 'wbs-free', ['project' => 'prj-GRID', 'code' => 'F', 'name' => 'Free', 'position' => 50]),
            self::made('activity', 'act-free', ['project' => 'prj-GRID', 'code' => 'F1', 'name' => 'Free', 'duration' => 480]),
            self::made('activity', self::TASK.'-b', ['project' => 'prj-GRID', 'code' => 'F2', 'name' => 'Second', 'duration' => 480]),
            self::made('assignment', 'work-act-free', ['activity' => 'act-free', 'actualWork' => null, 'remainingWork' => 480]),
            self::made('activity', 'act-end', ['project' => 'prj-GRID', 'code' => 'F3', 'name' => 'Third', 'duration' => 480]),
            self::made('link', 'link-free', ['from' => 'act-free', 'to' => 'act-end', 'type' => 'FS', 'lag' => 0]),
            self::made('link', 'link-over', ['from' => 'act-free', 'to' => 'act-crew-ro-0050', 'type' => 'FS', 'lag' => 0]),
            self::made('remark', 'remark-free', ['activity' => 'act-free', 'text' => 'Free']),
            self::made('levelScheme', 'scheme-free', ['name' => 'Free']),
            self::made('levelScheme', 'scheme-b', ['name' => 'B']),
            self::made('levelCode', 'lc-top', ['scheme' => 'scheme-free', 'level' => 1, 'code' => 'T', 'name' => 'Top']),
            self::made('levelCode', 'lc-free', ['scheme' => 'scheme-free', 'level' => 1, 'code' => 'F', 'name' => 'Free']),
            self::made('levelCode', 'lc-lone', ['scheme' => 'scheme-free', 'level' => 1, 'code' => 'L', 'name' => 'Lone']),
            self::made('openEnd', 'end-free', ['activity' => 'act-free', 'side' => 'predecessor']),
            self::made('insertion', 'ins-free', ['project' => 'prj-GRID', 'fragment' => 'f', 'name' => 'F', 'version' => 1]),
            self::made('ownField', 'own-goal', ['scope' => 'activity', 'name' => 'Goal']),
            self::made('ownField', 'own-choice', ['scope' => 'project', 'name' => 'Choice', 'type' => 'choice']),
            self::made('ownField', 'own-a', ['scope' => 'activity', 'name' => 'One']),
            self::made('ownField', 'own-calculated',
                ['scope' => 'activity', 'name' => 'Calculated', 'type' => 'number', 'formula' => 'work']),
            self::made('ownField', 'own-b', ['scope' => 'activity', 'name' => 'Other']),
            self::made('foreign', 'foreign-free', ['project' => 'prj-GRID', 'activity' => 'act-free', 'format' => 'icalendar',
                'content' => 'PRIORITY:5']),
            self::made('ownValue', 'own-free', ['project' => 'prj-GRID', 'activity' => 'act-free', 'field' => 'own-a', 'value' => 'x']),
            self::made('coding', 'coding-free', ['project' => 'prj-GRID', 'activity' => 'act-free', 'entry' => 'entry-a']),
        ];
    }

    private function objects(): void
    {
        $this->actingAs($this->person('ilse'));
        $made = $this->change(self::operations());
        self::assertSame(200, $made->status(), (string) $made->getContent());
    }
}
