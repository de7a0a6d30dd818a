<?php

declare(strict_types=1);

namespace Reihe\Core\Schedule;

/** What the passes find, as lists by node, edge and project of a {@see Network}. */
final class Dates
{
    /** @var list<int> node => early start index */
    public array $es = [];

    /** @var list<int> node => early finish index */
    public array $ef = [];

    /** @var list<int> node => index at which the (remaining) work starts */
    public array $rs = [];

    /** @var list<int> node => the same as a moment */
    public array $begin = [];

    /** @var list<int> node => early start, or actual start, as a moment */
    public array $start = [];

    /** @var list<int> node => early finish, or actual finish, as a moment */
    public array $finish = [];

    /** @var list<int> edge => index (moment before finish milestones) asked of the successor's start; PHP_INT_MIN for none */
    public array $bound = [];

    /** @var list<bool> edge => drives its successor */
    public array $driving = [];

    /** @var list<int|null> project => latest early finish, null without activities */
    public array $ownEnd = [];

    /** @var list<int> node => late start index; meaningless where lateStart is null */
    public array $ls = [];

    /** @var list<int> node => late finish index; meaningless where lateFinish is null */
    public array $lf = [];

    /** @var list<int|null> node => late start as a moment */
    public array $lateStart = [];

    /** @var list<int|null> node => late finish as a moment */
    public array $lateFinish = [];

    /** @var list<int|null> node => total float in minutes */
    public array $totalFloat = [];

    /** @var list<int|null> node => free float in minutes */
    public array $freeFloat = [];

    /** @var list<int|null> edge => link float in minutes of the predecessor's calendar */
    public array $linkFloat = [];

    /** @var list<bool> node => critical */
    public array $critical = [];

    /** @var list<bool> node => near-critical */
    public array $nearCritical = [];

    /** @var array<int, int> node moved as late as possible => start before the move */
    public array $movedFrom = [];
}
