<?php

declare(strict_types=1);

return [
    'default' => 'attachments',
    'disks' => [
        // Laravel's own local disk would open a route of its own; nothing here is served around the rights.
        'local' => ['driver' => 'local', 'root' => storage_path('local'), 'serve' => false, 'throw' => true],
        'attachments' => [
            'driver' => 'local',
            'root' => storage_path('attachments'),
            'throw' => true,
        ],
    ],
];
