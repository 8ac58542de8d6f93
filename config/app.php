<?php

declare(strict_types=1);

return [
    'name' => env('APP_NAME', 'Pin Yard'),
    'env' => env('APP_ENV', 'production'),
    'debug' => (bool) env('APP_DEBUG', false),
    'url' => env('APP_URL', 'http://127.0.0.1:8420'),
    'timezone' => 'UTC',
    'key' => env('APP_KEY'),
    'version' => '0.1.0',
    'demo' => (bool) env('PINYARD_DEMO', true),
];
