<?php

declare(strict_types=1);

namespace App\Planning\Tables;

use App\Database\Rows;
use App\Planning\Ids;
use Reihe\Core\Calendar\Calendar;
use Reihe\Core\Plan\Entity;
use Reihe\Core\Plan\EntityKind;
use Reihe\Core\Plan\Plan;

/** Calendars belong to the enterprise: all of them are loaded, whatever the projects. */
final class CalendarTable extends Table
{
    public function name(): string
    {
        return 'calendars';
    }

    public function parentField(): string
    {
        return 'base';
    }

    public function parentColumn(): string
    {
        return 'base_id';
    }

    public function load(string $in, Ids $ids): array
    {
        $calendars = [];
        foreach (Rows::all('SELECT c.id, c.uid, c.`key`, c.name, b.uid, c.minutes_per_day, c.week, c.exceptions, c.retired
            FROM calendars c LEFT JOIN calendars b ON b.id = c.base_id ORDER BY c.`key`') as $r) {
            $calendars[$r[1]] = Calendar::read($r[1], [
                'key' => $r[2], 'name' => $r[3], 'base' => $r[4], 'minutesPerDay' => $r[5],
                'week' => json_decode($r[6], true), 'exceptions' => json_decode($r[7], true),
                'retired' => (bool) $r[8],
            ]);
            $ids->set(EntityKind::Calendar, $r[1], $r[0]);
        }

        return $calendars;
    }

    public function values(Entity $entity, Ids $ids, Plan $plan): array
    {
        assert($entity instanceof Calendar);
        $fields = $entity->fields();

        return ['key' => $entity->key, 'name' => $entity->name, 'base_id' => $ids->idOrNull(EntityKind::Calendar, $entity->base),
            'minutes_per_day' => $entity->minutesPerDay,
            'week' => json_encode((object) (array) $fields['week'], JSON_THROW_ON_ERROR),
            'exceptions' => json_encode($fields['exceptions'], JSON_THROW_ON_ERROR), 'retired' => $entity->retired];
    }
}
