<?php

declare(strict_types=1);

use App\Models\User;
use App\Planning\PlanStore;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\DB;

/** One edit after another on the loaded portfolio, over HTTP on the running app: request to response with everything written. */
require dirname(__DIR__, 2).'/vendor/autoload.php';
$app = require dirname(__DIR__, 2).'/bootstrap/app.php';
$app->make(Kernel::class)->bootstrap();

$token = User::query()->where('email', 'ilse@varnsund.example')->firstOrFail()->createToken('bench', ['write', 'read'])->plainTextToken;
$uids = DB::table('activities')->where('kind', 'task')->whereNull('actual_start')->orderBy('id')->pluck('duration', 'uid')->all();
$pick = array_slice(array_keys($uids), intdiv(count($uids), 3), 25);
$times = $moved = [];
foreach ($pick as $i => $uid) {
    $body = json_encode(['operations' => [['verb' => 'update', 'kind' => 'activity', 'uid' => $uid, 'after' => ['duration' => $uids[$uid] + 480 * (1 + $i % 3)]]]], JSON_THROW_ON_ERROR);
    $t = hrtime(true);
    $answer = file_get_contents(getenv('REIHE_URL').'/api/v1/changes?board=V001', false, stream_context_create(['http' => ['method' => 'POST', 'content' => $body, 'header' => "Content-Type: application/json\r\nAccept: application/json\r\nAuthorization: Bearer {$token}\r\n"]]));
    $times[] = (hrtime(true) - $t) / 1e6;
    if (getenv('EACH')) {
        fwrite(STDERR, round(end($times)).' ');
    }
    $moved[] = json_decode((string) $answer, true)['ripple']['movedActivities'];
}
sort($times);
sort($moved);
$t = hrtime(true);
[$plan] = PlanStore::load(array_values(DB::table('projects')->pluck('id')->all()));
$load = (hrtime(true) - $t) / 1e6;
echo json_encode(['activities' => count($plan->activities), 'links' => count($plan->links), 'median_ms' => round($times[12]), 'slowest_ms' => round(end($times)), 'median_moved' => $moved[12], 'load_ms_without_jit' => round($load)], JSON_THROW_ON_ERROR), "\n";
