<?php

declare(strict_types=1);

namespace Demo;

use App\Flags\LayerFlags;
use App\Models\Layer;
use App\Models\User;

/** What speaks against some of the nests that wait to be looked at, made up. */
final class Doubts
{
    /** From the last that was found backwards. */
    private const POOR = 2;

    private const TWIN = 4;

    private const STRAY = 6;

    /** Degrees: some three metres, and some two kilometres. */
    private const STEP = 0.00003;

    private const WAY = 0.02;

    /**
     * @param  list<array{user: User, operation: array<string, mixed>, pictures: array<string, string>}>  $mornings  in
     *     the order of days
     * @return list<array{user: User, operation: array<string, mixed>, pictures: array<string, string>}>
     */
    public static function cast(array $mornings): array
    {
        $cast = [];
        foreach ($mornings as $i => $morning) {
            $operation = $morning['operation'];
            $from = match (count($mornings) - $i) {
                self::TWIN => [$mornings[$i - 1]['operation'] ?? $operation, self::STEP],
                self::STRAY => [$operation, self::WAY],
                default => null,
            };
            if ($from !== null) {
                [$lon, $lat] = $from[0]['geometry']['coordinates'];
                $operation['geometry'] = ['type' => 'Point', 'coordinates' => [$lon + $from[1], $lat]];
            }
            if (count($mornings) - $i === self::POOR) {
                $operation['fix'] = ['accuracy' => 24.0];
            }
            $cast[] = ['operation' => $operation] + $morning;
        }

        return $cast;
    }

    /** Nests lie on a beach, and a beach is walked each morning. */
    public static function look(Layer $nests): void
    {
        $sectors = Layer::areasOf($nests->programme)->first();
        LayerFlags::say($nests, [
            'areas' => $sectors?->id,
            'double' => ['metres' => 15, 'hours' => 48],
        ] + LayerFlags::rules($nests)->toArray());
    }
}
