<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** What the passes find, as lists by node, edge and project of a {@see Network}. */
final class Dates
{
    /** @var array<int, int> node => early start index */
    public array $es = [];

    /** @var array<int, int> node => early finish index */
    public array $ef = [];

    /** @var array<int, int> node => index at which the (remaining) work starts */
    public array $rs = [];

    /** @var array<int, int> node => the same as a moment */
    public array $begin = [];

    /** @var array<int, int> node => early start, or actual start, as a moment */
    public array $start = [];

    /** @var array<int, int> node => early finish, or actual finish, as a moment */
    public array $finish = [];

    /** @var array<int, int> edge => index (moment before finish milestones) asked of the successor's start; PHP_INT_MIN for none */
    public array $bound = [];

    /** @var array<int, bool> edge => drives its successor */
    public array $driving = [];

    /** @var array<int, int|null> project => latest early finish, null without activities */
    public array $ownEnd = [];

    /** @var array<int, int> node => late start index; meaningless where lateStart is null */
    public array $ls = [];

    /** @var array<int, int> node => late finish index; meaningless where lateFinish is null */
    public array $lf = [];

    /** @var array<int, int|null> node => late start as a moment */
    public array $lateStart = [];

    /** @var array<int, int|null> node => late finish as a moment */
    public array $lateFinish = [];

    /** @var array<int, int|null> node => total float in minutes */
    public array $totalFloat = [];

    /** @var array<int, int|null> node => free float in minutes */
    public array $freeFloat = [];

    /** @var array<int, int|null> edge => link float in minutes of the predecessor's calendar */
    public array $linkFloat = [];

    /** @var array<int, bool> node => critical */
    public array $critical = [];

    /** @var array<int, bool> node => near-critical */
    public array $nearCritical = [];

    /** @var array<int, int> node moved as late as possible => start before the move */
    public array $movedFrom = [];

    /** @return array<string, mixed> the results; {@see Schedule::calculated()} gives the rest back */
    public function lists(): array
    {
        /** @var array<string, mixed> */
        return array_diff_key(get_object_vars($this), ['es' => 0, 'ef' => 0, 'rs' => 0, 'bound' => 0, 'ls' => 0, 'lf' => 0]);
    }

    /** @param  array<string, mixed>  $lists  as from {@see lists()}; others may stand beside them */
    public static function fromLists(array $lists): self
    {
        $dates = new self;
        foreach (array_intersect_key($lists, get_object_vars($dates)) as $name => $list) {
            $dates->{$name} = $list;
        }

        return $dates;
    }
}
