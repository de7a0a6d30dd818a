<?php

declare(strict_types=1);

namespace Reihe\Formats\Todo;

use Reihe\Formats\Text;

/** What should be said about components from elsewhere: how they were read. One line for each thing, with a count. */
final class ForeignNotes
{
    /**
     * @param  array<string, Todo>  $todos
     * @return list<string>
     */
    public static function of(array $todos): array
    {
        $foreign = array_filter($todos, static fn (Todo $t): bool => $t->kind() === null);
        $counts = [
            ['is dated by whole days; its due day counts', 'are dated by whole days; their due day counts', ' as worked',
                static fn (Todo $t): bool => $t->allDay],
            ['has no dates; it became a one-day estimate', 'have no dates; they became one-day estimates', '',
                static fn (Todo $t): bool => $t->start === null && $t->due === null && $t->duration === null],
            ['is an appointment; its', 'are appointments; their', ' dates are pinned', static fn (Todo $t): bool => $t->isEvent],
            ['says', 'say', ' more than a plan holds; that is kept and given back',
                static fn (Todo $t): bool => $t->kept !== [] || $t->categories !== []],
        ];
        $notes = ['The file does not come from Reihe: durations are the working time between start and due date, starts became '
            .'“start no earlier than” where no link leads in.'];
        foreach ($counts as [$one, $many, $more, $is]) {
            $count = count(array_filter($foreign, $is));
            $count === 0 ?: $notes[] = Text::counted($count, "item {$one}", "items {$many}").$more.'.';
        }

        return $notes;
    }
}
