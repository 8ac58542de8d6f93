<?php

declare(strict_types=1);

namespace App\Plan;

/** Designs to begin from, for different subjects; ours, one JSON document each. */
final class Starters
{
    /** @return list<array{key: string, design: array<string, mixed>}> */
    public static function all(): array
    {
        $all = [];
        foreach (glob(base_path('core/Design/starters/*.json')) ?: [] as $file) {
            $all[] = [
                'key' => basename($file, '.json'),
                'design' => (array) json_decode((string) file_get_contents($file), true, flags: JSON_THROW_ON_ERROR),
            ];
        }

        return $all;
    }
}
