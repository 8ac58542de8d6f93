<?php

declare(strict_types=1);

namespace App\Providers;

use App\Http\Middleware\KeepSession;
use App\Mailing\MailBox;
use App\People\KnownDevice;
use App\People\PeopleOfSessions;
use App\People\SessionsOfPeople;
use App\Recalculation\NeighbourValues;
use App\Recalculation\VisitedValues;
use App\Records\RecordListener;
use App\Records\VisitFollower;
use Illuminate\Cache\RateLimiter as CountedTries;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Http\Request;
use Illuminate\Http\Resources\Json\JsonResource;
use Illuminate\Session\SessionManager;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\Mail;
use Illuminate\Support\Facades\Session;
use Illuminate\Support\ServiceProvider;
use Symfony\Component\HttpFoundation\Response;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        $this->app->bind(VisitFollower::class, VisitedValues::class);
        // One for its beginning and its end.
        $this->app->singleton(
            KeepSession::class,
            static fn (Application $app): KeepSession => new KeepSession($app->make(SessionManager::class)),
        );
        // Whoever must know what was written to records; maps, boards and webhooks join here.
        $this->app->tag([NeighbourValues::class], RecordListener::class);
    }

    public function boot(): void
    {
        // What is asked for each thing of a list is asked for all of them at once; whoever forgets hears of it before
        // it is out.
        Model::preventLazyLoading(! $this->app->environment('production'));
        JsonResource::withoutWrapping();
        Mail::extend('mailbox', static fn (): MailBox => new MailBox);
        Session::extend(
            'database',
            static fn (Application $app): SessionsOfPeople => new SessionsOfPeople(
                $app->make('db')->connection(),
                'sessions',
                (int) config('session.lifetime'),
                $app,
            ),
        );
        Auth::provider(
            'people',
            static fn (Application $app, array $config): PeopleOfSessions => new PeopleOfSessions(
                $app->make('hash'),
                $config['model'],
            ),
        );
        // Few requests are counted, and what counts them costs each request some.
        $this->callAfterResolving(CountedTries::class, self::limits(...));
    }

    private static function limits(CountedTries $counted): void
    {
        // Ten wrong tries a minute for one account from one address, fifty for an address (a whole crew may sign in at
        // once), and thirty
        // in ten minutes for an account wherever they come from; a browser in which it was signed in before has tries
        // of its own.
        $failed = static fn (Response $response): bool => $response->getStatusCode() >= 400;
        $counted->for('sign-in', static function (Request $request) use ($failed): array {
            $email = is_string($request->input('email')) ? mb_strtolower(trim($request->input('email'))) : '';
            $known = $email === '' ? null : KnownDevice::of($request, $email);

            return [
                Limit::perMinute(10)
                    ->by("$email|{$request->ip()}|{$request->route('token')}")
                    ->after($failed),
                Limit::perMinute(50)->by((string) $request->ip())->after($failed),
                ...$email === ''
                    ? []
                    : [
                        Limit::perMinutes(10, 30)
                            ->by($known === null ? "account|$email" : "device|$known|$email")
                            ->after($failed),
                    ],
            ];
        });
        // Asking for a link is answered alike for all, so each counts.
        // Whoever is signed in mails to whatever address they type: a few times, whichever it is.
        $counted->for('address', static fn (Request $request): Limit => Limit::perMinutes(10, 5)->by(
            'address|'.($request->user()->id ?? $request->ip()),
        ));
        $counted->for(
            'forgot',
            static fn (Request $request): array => [
                Limit::perMinutes(10, 5)->by(
                    'forgot|'.
                        (is_string($request->input('email')) ? mb_strtolower(trim($request->input('email'))) : ''),
                ),
                Limit::perMinute(20)->by("forgot|{$request->ip()}"),
            ],
        );
    }
}
