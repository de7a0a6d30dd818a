<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Reach;
use App\Models\BackgroundJob;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;

/** Long work of the user in the background: how far it is, what came of it, cancel. */
final class JobController
{
    public function __construct(private readonly Reach $reach)
    {
    }

    /** The latest ones, without their results. */
    public function index(): JsonResponse
    {
        $jobs = $this->own()->where('created_at', '>', now()->subDays(2))->latest('id')->limit(20)
            ->get(array_values(array_diff(BackgroundJob::LISTED, ['result'])));

        return new JsonResponse(['jobs' => $jobs->map(fn (BackgroundJob $job): array => $job->shown($this->reach->covers($job->branches)))
            ->all()]);
    }

    public function show(string $uid): JsonResponse
    {
        $job = $this->own()->where('uid', $uid)->firstOrFail(BackgroundJob::LISTED);

        return new JsonResponse($job->shown($this->reach->covers($job->branches)));
    }

    /** What has not begun never does; what runs stops at its next step, and nothing of it stays. */
    public function cancel(string $uid): JsonResponse
    {
        $job = $this->own()->where('uid', $uid)->firstOrFail(['id', 'uid']);
        $this->own()->whereKey($job->id)->where('state', 'waiting')->update(['state' => 'cancelled', 'ended_at' => now(), 'file' => null]);
        $this->own()->whereKey($job->id)->where('state', 'running')->update(['cancel' => true]);

        return $this->show($uid);
    }

    /** @return Builder<BackgroundJob> */
    private function own(): Builder
    {
        return BackgroundJob::query()->where('user_id', $this->reach->user->id);
    }
}
