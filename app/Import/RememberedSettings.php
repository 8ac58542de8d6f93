<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use PinYard\Import\ImportProposal;

/** What was decided before and still holds when a file is read again, or the newer one of the same kind comes. */
final class RememberedSettings
{
    /**
     * @param  array<string, mixed>  $proposed
     * @return array<string, mixed>
     */
    public static function kept(Import $import, array $proposed): array
    {
        $before = $import->settings;
        if ($before === null) {
            return $proposed;
        }
        $layer = is_int($before['layer'] ?? null) ? $import->programme->layers()->find($before['layer']) : null;
        $kept = array_intersect_key(
            $before,
            array_flip(['title', 'mode', 'zone', 'unfit', 'new_choices', 'layer', 'within', 'empties', 'conflicts']),
        );
        $columns = $proposed['columns'];
        $byLabel = [];
        foreach ((array) ($before['columns'] ?? []) as $i => $column) {
            $byLabel[mb_strtolower((string) ($before['names'][$i] ?? $column['label']))] = [$i, $column];
        }
        $moved = [];
        foreach ($columns as $i => $column) {
            $known = $byLabel[mb_strtolower((string) $column['label'])] ?? null;
            if ($known !== null) {
                $moved[$known[0]] = $i;
                $columns[$i] = ['with' => null] + $known[1];
            }
        }
        foreach ($columns as $i => $column) {
            $known = $byLabel[mb_strtolower((string) $proposed['columns'][$i]['label'])][1] ?? null;
            $columns[$i]['with'] = isset($known['with'], $moved[$known['with']])
                ? $moved[$known['with']]
                : ($known === null
                    ? $column['with']
                    : null);
        }
        $settings = ['columns' => $columns] + $kept + $proposed;
        // The same columns say where a row is, if all of them are there again.
        $place = (array) ($before['location']['columns'] ?? []);
        if (
            ($before['location']['way'] ?? null) === ($proposed['location']['way'] ?? null) ||
            (count(array_intersect($place, array_keys($moved))) === count($place) && $place !== [])
        ) {
            $settings['location'] =
                ['columns' => array_values(array_map(static fn (int $i): int => $moved[$i] ?? $i, $place))] +
                (array) $before['location'];
        }
        if (is_int($before['key_column'] ?? null)) {
            $settings['key_column'] = $moved[$before['key_column']] ?? null;
        }
        if (($before['columns'] ?? []) === [] && $layer !== null) {
            $settings = ImportProposal::into($settings, $layer->design());
        }

        return $settings;
    }
}
