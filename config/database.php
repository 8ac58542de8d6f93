<?php

declare(strict_types=1);

return [
    'default' => env('DB_CONNECTION', 'mariadb'),
    'connections' => [
        'mariadb' => [
            'driver' => 'mariadb',
            'host' => env('DB_HOST', '127.0.0.1'),
            'port' => env('DB_PORT', '8421'),
            'database' => env('DB_DATABASE', 'pinyard'),
            'username' => env('DB_USERNAME', 'pinyard'),
            'password' => env('DB_PASSWORD', ''),
            'charset' => 'utf8mb4',
            'collation' => 'utf8mb4_unicode_ci',
            'strict' => true,
            'timezone' => '+00:00',
            'options' => [
                PDO::ATTR_EMULATE_PREPARES => false,
                PDO::ATTR_TIMEOUT => 5,
                PDO::MYSQL_ATTR_LOCAL_INFILE => PHP_SAPI === 'cli',
            ],
        ],
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => false],
];
