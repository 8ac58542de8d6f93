<?php

declare(strict_types=1);

namespace App\Maps;

use App\Records\VisibleRecords;
use PinYard\Design\Field;
use PinYard\Stats\RankCorrelation;

/** Two numbers of the same records beside each other: do they go together? */
final class TwoFields
{
    /** Of more records than this so many are looked at, the same ones each time. */
    private const MOST = 50_000;

    private const DOTS = 300;

    /**
     * @param  VisibleRecords  $records  showing both fields
     * @return array{pairs: int, rho: float|null, word: string|null, dots: list<array{float, float}>} `dots`: some of
     *     the pairs, to be drawn
     */
    public static function of(VisibleRecords $records, Field $a, Field $b): array
    {
        [$x, $y] = [$a->column(), $b->column()];
        $both = static fn () => $records->rows()->whereNotNull($x)->whereNotNull($y);
        $every = (int) ceil($both()->count() / self::MOST);
        $found = $both()
            ->when($every > 1, static fn ($rows) => $rows->whereRaw('mod(crc32(id), ?) = 0', [$every]))
            ->orderBy('id')
            ->selectRaw("$x as a, $y as b")
            ->get();
        $first = $second = [];
        foreach ($found as $row) {
            $first[] = (float) $row->a;
            $second[] = (float) $row->b;
        }
        $rho = RankCorrelation::of($first, $second);
        $dots = [];
        $step = max(1, (int) ceil(count($first) / self::DOTS));
        for ($i = 0, $n = count($first); $i < $n; $i += $step) {
            $dots[] = [$first[$i], $second[$i]];
        }

        return [
            'pairs' => count($first),
            'rho' => $rho === null ? null : round($rho, 4),
            'word' => $rho === null ? null : RankCorrelation::word($rho),
            'dots' => $dots,
        ];
    }
}
