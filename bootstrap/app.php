<?php

declare(strict_types=1);

use App\Http\Middleware\CsrfOfSignedIn;
use App\Http\Middleware\HoldBody;
use App\Http\Middleware\KeepSession;
use App\Http\Middleware\ReadJson;
use App\Http\Middleware\SecurityHeaders;
use App\Http\Middleware\SpeakLanguage;
use App\Http\Problems;
use Demo\Console\CrewWalk;
use Demo\Console\DemoAccounts;
use Demo\Console\FillDemo;
use Demo\Console\RunReceiver;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Foundation\Http\Middleware\ConvertEmptyStringsToNull;
use Illuminate\Foundation\Http\Middleware\TrimStrings;
use Illuminate\Foundation\Http\Middleware\ValidateCsrfToken;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Routing\Middleware\ThrottleRequests;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\View\Middleware\ShareErrorsFromSession;

// One checkout can run several copies side by side: each has its own folder for settings, files and caches.
$var = getenv('PINYARD_VAR') ?: dirname(__DIR__).'/var/demo';
if (! is_dir("$var/cache")) {
    mkdir("$var/cache", 0o700, true);
}
foreach (['config', 'routes', 'events', 'services', 'packages'] as $kind) {
    $_SERVER['APP_'.strtoupper($kind).'_CACHE'] = "$var/cache/$kind.php";
}

$app = Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        web: __DIR__.'/../routes/api.php',
        commands: __DIR__.'/../routes/console.php',
    )
    // The demo brings its own commands.
    ->withCommands([FillDemo::class, DemoAccounts::class, CrewWalk::class, RunReceiver::class])
    ->withMiddleware(function (Middleware $middleware): void {
        // What a person wrote goes in as it was written: nothing is trimmed or turned to null behind their back.
        $middleware->remove([HandleCors::class, TrimStrings::class, ConvertEmptyStringsToNull::class]);
        $middleware->web(
            // No page of the server's shows what was wrong with a form.
            remove: [ShareErrorsFromSession::class],
            replace: [ValidateCsrfToken::class => CsrfOfSignedIn::class, StartSession::class => KeepSession::class],
        );
        // What a limit counts by stands in the body.
        $middleware->prependToPriorityList(ThrottleRequests::class, ReadJson::class);
        $middleware->prepend(SpeakLanguage::class);
        $middleware->append(SecurityHeaders::class);
        $middleware->append(HoldBody::class);
        $middleware->alias(['throttle' => ThrottleRequests::class]);
        $middleware->redirectGuestsTo(fn () => null);
    })
    ->withExceptions(function (Exceptions $exceptions): void {
        Problems::register($exceptions);
    })
    ->create();

$app->useEnvironmentPath($var);
$app->useStoragePath($var.'/storage');

return $app;
