<?php

declare(strict_types=1);

// OWASP Password Storage Cheat Sheet: Argon2id with 19 MiB of memory, two passes, one lane.
return [
    'driver' => 'argon2id',
    'bcrypt' => ['rounds' => env('BCRYPT_ROUNDS', 12), 'verify' => false],
    'argon' => ['memory' => (int) env('ARGON_MEMORY', 19_456), 'time' => (int) env('ARGON_TIME', 2), 'threads' => 1,
        'verify' => false],
    'rehash_on_login' => true,
];
