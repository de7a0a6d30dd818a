<?php

declare(strict_types=1);

use App\Http\Controllers\AccessController;
use App\Http\Controllers\BaselineController;
use App\Http\Controllers\BoardController;
use App\Http\Controllers\CalendarController;
use App\Http\Controllers\ChangeController;
use App\Http\Controllers\CodeSetController;
use App\Http\Controllers\ComposeController;
use App\Http\Controllers\CopyController;
use App\Http\Controllers\DraftController;
use App\Http\Controllers\ExchangeController;
use App\Http\Controllers\FragmentController;
use App\Http\Controllers\HandoverController;
use App\Http\Controllers\HealthController;
use App\Http\Controllers\HistoryController;
use App\Http\Controllers\JobController;
use App\Http\Controllers\LevelController;
use App\Http\Controllers\NoticeController;
use App\Http\Controllers\ObjectController;
use App\Http\Controllers\OwnerController;
use App\Http\Controllers\PasteController;
use App\Http\Controllers\PortfolioController;
use App\Http\Controllers\ProgressController;
use App\Http\Controllers\RemarkController;
use App\Http\Controllers\ResourceController;
use App\Http\Controllers\SearchController;
use App\Http\Controllers\SessionController;
use App\Http\Controllers\SubscriptionController;
use App\Http\Controllers\TableController;
use App\Http\Controllers\TokenController;
use App\Http\Controllers\UserController;
use App\Http\Controllers\ViewController;
use App\OData\ODataController;
use Illuminate\Support\Facades\Route;

Route::pattern('uid', '(?!-?\d+$)[A-Za-z0-9._:@-]{1,64}');
Route::pattern('changeSet', '(?!-?\d+$)[A-Za-z0-9._:@-]{1,64}');
Route::pattern('id', '[1-9]\d{0,17}');

Route::get('session', [SessionController::class, 'show']);
Route::post('session', [SessionController::class, 'create'])->middleware(['throttle:sign-in', 'plain']);

Route::middleware(['auth:sanctum', 'first', 'scope:read', 'plain'])->group(static function (): void {
    Route::get('portfolio', PortfolioController::class);
    Route::get('project-key', [PortfolioController::class, 'key']);
    Route::get('board', [BoardController::class, 'show']);
    Route::post('board/news', [BoardController::class, 'news'])->withoutMiddleware('scope:read')->middleware('scope:look');
    Route::get('board/arrange', [BoardController::class, 'arrange']);
    Route::get('board/assignments', [BoardController::class, 'assignments']);
    Route::get('board/codes', [BoardController::class, 'codes']);
    Route::get('activities/{uid}/objects/{kind}', [ObjectController::class, 'onActivity']);
    Route::get('activities/{uid}/identities', [ObjectController::class, 'identities']);
    Route::get('activities/{uid}/reasons', [BoardController::class, 'reasons']);
    Route::get('activities/{uid}/trace', [BoardController::class, 'trace']);
    Route::get('activities/{uid}/float-paths', [BoardController::class, 'floatPaths']);
    Route::get('links/{uid}/float-paths', [BoardController::class, 'linkPaths']);
    Route::get('search', SearchController::class);

    Route::get('views', [ViewController::class, 'index']);

    Route::get('access/shift', [AccessController::class, 'shift']);
    Route::get('code-sets', CodeSetController::class);
    Route::get('owners', [OwnerController::class, 'index']);
    Route::get('calendars', [CalendarController::class, 'index']);
    Route::get('resources', [ResourceController::class, 'index']);
    Route::get('resources/{uid}/assignments', [ResourceController::class, 'assignments']);
    Route::get('resources/{uid}/load', [ResourceController::class, 'behind']);
    Route::get('load', [ResourceController::class, 'load']);
    Route::post('compose/merge', [ComposeController::class, 'merge']);
    Route::post('compose/codings', [ComposeController::class, 'codings']);
    Route::post('compose/resources', [ComposeController::class, 'resources']);
    Route::post('compose/entries', [ComposeController::class, 'entries']);
    Route::get('level-schemes', [LevelController::class, 'schemes']);

    Route::get('projects/{uid}/outline', [LevelController::class, 'export']);
    Route::post('compose/codes', [LevelController::class, 'regenerate']);
    Route::post('compose/levels', [LevelController::class, 'table']);
    Route::post('compose/outline', [LevelController::class, 'outline']);
    Route::post('compose/paste', PasteController::class);
    Route::post('compose/duplicate', [CopyController::class, 'duplicate']);
    Route::get('sources', [CopyController::class, 'sources']);
    Route::post('compose/copy', [CopyController::class, 'copy']);
    Route::post('compose/parts', [CopyController::class, 'parts'])->withoutMiddleware('scope:read')->middleware('scope:look');
    Route::post('compose/fragment', [FragmentController::class, 'create']);
    Route::post('compose/insert', [FragmentController::class, 'insert']);
    Route::post('compose/fragment-update', [FragmentController::class, 'update']);
    Route::get('fragments/{uid}', [FragmentController::class, 'show']);
    Route::post('fragments/{uid}/versions', [FragmentController::class, 'version']);

    Route::get('history', [HistoryController::class, 'index']);
    Route::get('history/steps', [HistoryController::class, 'steps']);
    Route::get('history/deleted', [HistoryController::class, 'deleted']);
    Route::get('history/since', [HistoryController::class, 'since']);

    Route::get('notices', [NoticeController::class, 'index']);
    Route::get('remarks/{kind}/{uid}', [RemarkController::class, 'on']);
    Route::get('todos', [RemarkController::class, 'todos']);
    Route::get('projects/{uid}/people', [NoticeController::class, 'people']);
    Route::get('branches/{uid}/people', [NoticeController::class, 'peopleOfBranch']);
    Route::put('branches/{branch}/remarks/{uid}', [RemarkController::class, 'say']);
    Route::patch('branches/{branch}/remarks/{uid}', [RemarkController::class, 'change']);
    Route::post('handovers/{uid}/proposal', [HandoverController::class, 'propose']);
    Route::get('drafts', [DraftController::class, 'index']);
    Route::get('drafts/{uid}', [DraftController::class, 'show']);
    Route::get('drafts/{uid}/board', [DraftController::class, 'board']);

    Route::get('changes', [ChangeController::class, 'index']);
    Route::post('changes', [ChangeController::class, 'create']);
    Route::get('changes/{changeSet:uid}', [ChangeController::class, 'show']);
    Route::get('changes/{changeSet:uid}/preview', [ChangeController::class, 'preview']);
    Route::get('changes/{changeSet:uid}/board', [ChangeController::class, 'board']);
    Route::post('changes/{changeSet:uid}/undo', [ChangeController::class, 'undo']);
    Route::post('changes/{changeSet:uid}/apply', [ChangeController::class, 'apply']);
    Route::post('changes/{changeSet:uid}/decide', [ChangeController::class, 'decide']);
    Route::post('changes/{changeSet:uid}/reject', [ChangeController::class, 'reject']);

    Route::post('progress', [ProgressController::class, 'report']);
    Route::post('status-date', [ProgressController::class, 'statusDates']);
    Route::post('projects/{uid}/status-date', [ProgressController::class, 'statusDate']);

    Route::get('projects/{uid}/baselines', [BaselineController::class, 'index']);
    Route::post('projects/{uid}/baselines', [BaselineController::class, 'create']);
    Route::patch('baselines/{uid}', [BaselineController::class, 'update']);
    Route::delete('baselines/{uid}', [BaselineController::class, 'delete']);
    Route::get('baselines/{uid}/comparison', [BaselineController::class, 'compare']);
    Route::get('baselines/{uid}/dates', [BaselineController::class, 'dates']);

    Route::get('health', [HealthController::class, 'show']);
    Route::get('health/thresholds', [HealthController::class, 'thresholds']);
    Route::get('health/marks', [HealthController::class, 'marks']);
    Route::post('health/waivers', [HealthController::class, 'waive']);
    Route::put('health/thresholds', [HealthController::class, 'setThresholds']);

    Route::get('jobs', [JobController::class, 'index']);
    Route::get('jobs/{uid}', [JobController::class, 'show']);
    Route::post('jobs/{uid}/cancel', [JobController::class, 'cancel']);

    Route::get('exchange/table', [TableController::class, 'export']);
    Route::post('exchange/sheets', [TableController::class, 'sheets']);
    Route::get('exchange/export', [ExchangeController::class, 'export']);
    Route::post('exchange/import', [ExchangeController::class, 'import']);
});

Route::middleware(['auth:sanctum', 'first', 'scope:session', 'plain'])->group(static function (): void {
    Route::delete('session', [SessionController::class, 'delete']);
    Route::post('session/password', [SessionController::class, 'password']);
    Route::post('notices/read', [NoticeController::class, 'read']);
    Route::post('drafts', [DraftController::class, 'create']);
    Route::post('levelling', [ResourceController::class, 'level']);
    Route::post('ways-out', [ResourceController::class, 'waysOut']);
    Route::patch('drafts/{uid}', [DraftController::class, 'update']);
    Route::delete('drafts/{uid}', [DraftController::class, 'delete']);
    Route::post('drafts/{uid}/undo', [DraftController::class, 'undo']);
    Route::post('drafts/{uid}/redo', [DraftController::class, 'redo']);
    Route::post('drafts/{uid}/rebase', [DraftController::class, 'rebase']);
    Route::post('drafts/{uid}/propose', [DraftController::class, 'propose']);
    Route::get('users', [UserController::class, 'index']);
    Route::post('users', [UserController::class, 'create']);
    Route::patch('users/{id}', [UserController::class, 'update']);
    Route::post('users/{id}/password', [UserController::class, 'password']);
    Route::put('users/{id}/roles', [UserController::class, 'role']);
    Route::put('owners/{kind}/{uid}', [OwnerController::class, 'update']);
    Route::post('views', [ViewController::class, 'create']);
    Route::patch('views/{uid}', [ViewController::class, 'update']);
    Route::put('views/{uid}/first', [ViewController::class, 'first']);
    Route::delete('views/{uid}', [ViewController::class, 'delete']);
    Route::post('ranking/judge', [ComposeController::class, 'judge']);
    Route::post('projects/{uid}/codes', [LevelController::class, 'codes']);
    Route::get('odata/$metadata', [ODataController::class, 'metadata']);
    Route::get('odata/{path}', [ODataController::class, 'read'])->where('path', '.+');
    Route::get('subscriptions', [SubscriptionController::class, 'index']);
    Route::post('subscriptions', [SubscriptionController::class, 'create']);
    Route::delete('subscriptions/{id}', [SubscriptionController::class, 'delete']);
    Route::get('tokens', [TokenController::class, 'index']);
    Route::post('tokens', [TokenController::class, 'create']);
    Route::delete('tokens/{id}', [TokenController::class, 'delete']);
});
