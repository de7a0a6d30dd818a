<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Access\Reach;
use App\Exchange\ImportPreview;
use App\Exchange\Reading;
use App\Levelling\LevelRun;
use App\Levelling\LevelWish;
use App\Levelling\WaysOut;
use App\Models\BackgroundJob;
use App\Models\ChangeSet;
use App\Models\User;
use App\Planning\ChangeRequest;
use App\Planning\Planning;
use App\Problems\Problem;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Throwable;

/** Carries out a background job in the worker. Whatever happens is written down; started twice, it is done once. */
final class Work implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    public int $tries = 1;

    public int $timeout = 3600;

    public function __construct(public readonly string $job)
    {
    }

    /**
     * @param  array<string, mixed>  $input
     */
    public static function start(User $user, string $what, string $title, array $input, ?string $file = null): BackgroundJob
    {
        $job = BackgroundJob::query()->create(['uid' => (string) Str::ulid(), 'user_id' => $user->id, 'what' => $what,
            'title' => mb_substr($title, 0, 255), 'input' => $input, 'branches' => Reach::of($user)->branches(), 'file' => $file,
            'created_at' => now()]);
        self::dispatch($job->uid)->onQueue(in_array($what, ['level', 'ways'], true) ? 'levelling' : 'default');

        return BackgroundJob::query()->findOrFail($job->id, BackgroundJob::LISTED);
    }

    public function handle(): void
    {
        $job = BackgroundJob::query()->where('uid', $this->job)->with('user')->first();
        $taken = BackgroundJob::query()->where('uid', $this->job)->where('state', 'waiting')
            ->update(['state' => 'running', 'seen_at' => now()]);
        if ($job === null || $taken === 0 || ! $job->user instanceof User) {
            return;
        }
        if (! $job->user->active) { // deactivated since
            BackgroundJob::query()->where('uid', $this->job)->update(['state' => 'cancelled', 'ended_at' => now(), 'file' => null]);

            return;
        }
        auth()->setUser($job->user);
        try {
            $result = $this->carryOut($job, $job->user, new Progress($this->job));
            $end = ['state' => 'done', 'result' => json_encode($result, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE)];
        } catch (Cancelled) {
            $end = ['state' => 'cancelled'];
        } catch (Throwable $e) {
            $problem = Problem::document($e);
            if ($problem === null || ($problem['status'] ?? 500) >= 500) {
                report($e);
            }
            $problem ??= ['type' => 'urn:reihe:problem:server', 'title' => 'Server', 'status' => 500,
                'detail' => 'Something went wrong on the server; nothing was changed.'];
            $end = ['state' => 'failed', 'problem' => json_encode($problem, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE)];
        }
        DB::table('background_jobs')->where('uid', $this->job)->update($end + ['ended_at' => now(), 'seen_at' => now(), 'file' => null]);
    }

    /** @return array<string, mixed> */
    private function carryOut(BackgroundJob $job, User $user, Progress $progress): array
    {
        if ($job->what === 'preview') {
            $file = DB::table('background_jobs')->where('id', $job->id)->value('file');
            /** @var array{branch: string} $input */
            $input = $job->input;

            return ImportPreview::of(is_string($file) ? $file : '', $job->title, $input['branch'], $user, Reading::of($input),
                $progress->tell(...));
        }
        if ($job->what === 'level') {
            return (new LevelRun(Reach::of($user), $progress->tell(...)))->of(LevelWish::fromArray($job->input));
        }
        if ($job->what === 'ways') {
            /** @var array{resource: string, from: int, to: int} $input */
            $input = $job->input;

            return (new WaysOut(Reach::of($user), $progress->tell(...)))->of($input['resource'], $input['from'], $input['to']);
        }
        /** @var array{changeSet: string, accept?: list<int>, reject?: list<int>} $input */
        $input = $job->input;
        $proposal = ChangeSet::query()->where('uid', $input['changeSet'])->firstOrFail();
        if (isset($input['accept'])) {
            $outcome = (new Planning($user))->decide($proposal, $input['accept'], $input['reject'] ?? [], $progress->tell(...));

            return ['changeSet' => $outcome?->changeSet, 'operations' => count($outcome->operations ?? [])];
        }
        $request = new ChangeRequest($proposal->operationList(), source: $proposal->source, proposal: $proposal,
            tick: $progress->tell(...));
        $outcome = (new Planning($user))->commit($request);

        return ['changeSet' => $outcome->changeSet, 'operations' => count($outcome->operations)];
    }
}
