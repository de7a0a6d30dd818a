<?php

declare(strict_types=1);

namespace App\Providers;

use App\Access\FeedScope;
use App\Access\Reach;
use App\Baselines\Imported;
use App\Drafts\Carried;
use App\Drafts\OneDraft;
use App\History\DateMoves;
use App\Http\Middleware\OwnPages;
use App\Http\WholeValidator;
use App\Models\User;
use App\OData\Reader;
use App\Planning\Decisions;
use App\Planning\Followers;
use App\Planning\Identities;
use App\Planning\News;
use App\Planning\Notices;
use App\Planning\OwnersKept;
use App\Planning\Planning;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Contracts\Translation\Translator;
use Illuminate\Foundation\Events\DiagnosingHealth;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Facades\URL;
use Illuminate\Support\Facades\Validator;
use Illuminate\Support\ServiceProvider;
use Laravel\Sanctum\Http\Middleware\EnsureFrontendRequestsAreStateful;
use PDO;
use Reihe\Core\Time\Zone;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind(EnsureFrontendRequestsAreStateful::class, OwnPages::class);
        $this->app->bind(Reach::class, static function (): Reach {
            $user = request()->user();

            return $user instanceof User ? Reach::of($user, FeedScope::branch($user)) : Reach::of(new User);
        });
        $this->app->singleton(Zone::class, static fn (): Zone => new Zone(config()->string('reihe.time_zone')));
        $this->app->bind(Reader::class, static function (Application $app): Reader {
            $reach = $app->make(Reach::class);

            return new Reader($reach, $app->make(Zone::class), FeedScope::sets($reach->user));
        });
        // what follows from a change, in this order
        $this->app->singleton(Followers::class, static fn (): Followers => new Followers([new News, new DateMoves, new Notices,
            new Identities, new OwnersKept, new Imported, new Decisions, new Carried]));
        $this->app->bind(Planning::class, static function (Application $app): Planning {
            $reach = $app->make(Reach::class);
            $draft = request()->query('draft'); // what is changed on the board of a draft goes into it
            $keys = array_values(array_filter(explode(',', (string) request()->query('board'))));

            return is_string($draft) && $draft !== '' ? new Planning($reach->user,
                new OneDraft($reach, $draft, $reach->projectsByKey($keys)))
                : new Planning($reach->user);
        });
    }

    public function boot(): void
    {
        // links name the configured address, never the one a request claims
        URL::forceRootUrl(config()->string('app.url'));
        $this->limitStatements();
        Validator::resolver(static fn (Translator $translator, array $data, array $rules, array $messages,
            array $attributes): WholeValidator => new WholeValidator($translator, $data, $rules, $messages, $attributes));
        // /up is true only when the database answers too
        Event::listen(DiagnosingHealth::class, static fn (): array => DB::select('SELECT 1 FROM enterprise'));
        RateLimiter::for('sign-in', static fn (Request $request): Limit => Limit::perMinute(120)->by('sign-in:'.$request->ip()));
    }

    /** No statement goes on after the answer that it was for: reading ends sooner than writing, work without an answer is not limited. */
    private function limitStatements(): void
    {
        if ($this->app->runningInConsole() && ! $this->app->runningUnitTests()) {
            return;
        }
        $seconds = request()->isMethodSafe() ? config()->integer('reihe.read_seconds') : config()->integer('reihe.write_seconds');
        config(['database.connections.mariadb.options' => [PDO::MYSQL_ATTR_INIT_COMMAND => "SET SESSION max_statement_time={$seconds}"]
            + config()->array('database.connections.mariadb.options', [])]);
    }
}
