<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use App\Texts;
use PinYard\Refused;

/** An import as screens get it, and what may be done in which of its states. */
final class ImportView
{
    /** @param  list<string>  $states */
    public static function expect(Import $import, array $states): void
    {
        if (! in_array($import->state, $states, true)) {
            throw Refused::because('intake_state', 'import', $import->state, ['state' => $import->state]);
        }
    }

    /** @return array<string, mixed> */
    public static function present(Import $import, bool $short = false): array
    {
        $row = [
            'id' => $import->id,
            'programme' => $import->programme_id,
            'state' => $import->state,
            'files' => array_map(
                static fn (array $f): array => [
                    'name' => $f['name'],
                    'bytes' => $f['bytes'],
                    'sha256' => $f['sha256'] ?? null,
                ],
                $import->files,
            ),
            'by' => $import->user?->name,
            'at' => $import->created_at?->toRfc3339String(),
            'layer' => $import->layer_id,
            'layer_title' => $import->layer->title ?? null,
            'counts' => $import->counts === null ? null : (object) $import->counts,
            'problems' => Texts::keptProblems($import->problems),
            'progress' => in_array($import->state, ['reading', 'landing'], true) ? $import->progress() : null,
            'mode' => $import->settings['mode'] ?? 'new',
            'rows' => $import->reading['rows'] ?? null,
        ];

        return $short
            ? $row
            : $row + [
                'source' => $import->source === null
                        ? null
                        : array_intersect_key(
                            $import->source,
                            array_flip([
                                'kind',
                                'tables',
                                'table',
                                'system',
                                'given',
                                'wkt',
                                'wkt_column',
                                'turned',
                            ]),
                        ),
                'reading' => self::reading($import->reading),
                'settings' => $import->settings,
            ];
    }

    /**
     * What was kept as JSON says `[]` of an empty object; the API says of what kind it is.
     *
     * @param  array<string, mixed>|null  $reading
     * @return array<string, mixed>|null
     */
    private static function reading(?array $reading): ?array
    {
        return $reading === null ? null : [
            ...$reading,
            // An older release kept their sentences alone.
            'notes' => array_map(
                static fn (mixed $n): string => is_array($n) ? Texts::again($n) : (string) $n,
                array_values((array) ($reading['notes'] ?? [])),
            ),
            'columns' => array_map(
                static fn (array $c): array => [
                    ...$c,
                    'distinct' => isset($c['distinct']) ? (object) $c['distinct'] : null,
                ],
                (array) ($reading['columns'] ?? []),
            ),
            'shapes' => (object) ($reading['shapes'] ?? []),
        ];
    }
}
