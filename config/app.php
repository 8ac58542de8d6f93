<?php

declare(strict_types=1);

use Demo\NestPatrol;

return [
    'name' => env('APP_NAME', 'Pin Yard'),
    'env' => env('APP_ENV', 'production'),
    'debug' => (bool) env('APP_DEBUG', false),
    'url' => env('APP_URL', 'http://127.0.0.1:8420'),
    'timezone' => 'UTC',
    'key' => env('APP_KEY'),
    'version' => '0.1.0',
    // Changes with the shape of what is answered: nothing that was kept is given in an earlier one.
    'answers' => (int) @filemtime(__DIR__.'/../app/OpenApi/answers.yaml'),
    // Bytes that the files of one programme may take.
    'quota' => (int) (1e9 * (float) env('PINYARD_QUOTA_GB', 50)),
    // By it an empty yard knows that it is none.
    'demo_coordinator' => NestPatrol::COORDINATOR,
    // Where the demo is served: its accounts, which everybody knows.
    'demo' => env('PINYARD_DEMO', true)
        ? ['coordinator' => NestPatrol::COORDINATOR, 'crew' => NestPatrol::CREW, 'password' => NestPatrol::PASSWORD]
            : null,
];
