<?php

declare(strict_types=1);

use App\Access\Attempts;
use App\Models\BackgroundJob;
use App\Models\ChangeSet;
use App\OData\Tracked;
use Illuminate\Support\Facades\Schedule;

// Proposals that nobody decided within 30 days are dropped.
Schedule::call(static fn () => ChangeSet::query()->where('state', 'proposed')->where('created_at', '<', now()->subDays(30))->delete())
    ->daily()->name('drop stale proposals');

Schedule::call(static fn () => BackgroundJob::query()->where('created_at', '<', now()->subDays(30))->delete())
    ->daily()->name('drop old jobs');

Schedule::call(Attempts::sweep(...))->daily()->name('drop old counts of attempts');

Schedule::call(Tracked::forgetOld(...))->daily()->name('drop old states of feeds');
