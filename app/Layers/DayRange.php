<?php

declare(strict_types=1);

namespace App\Layers;

use Illuminate\Support\Carbon;
use PinYard\Filter\Test;

/** The days that a test means, by the programme's own calendar. */
final class DayRange
{
    /**
     * @param  string|int|float|bool|array<array-key, mixed>|null  $value
     * @param  Carbon  $today  by the programme's clock
     * @return array{string|null, string|null}|null first and last day, both counted in; null for another test
     */
    public static function of(Test $test, string|int|float|bool|array|null $value, Carbon $today): ?array
    {
        $day = static fn (mixed $text): string => is_string($text) ? $text : '';

        return match ($test) {
            Test::Is => [$day($value), $day($value)],
            Test::Since => [$day($value), null],
            Test::Until => [null, $day($value)],
            Test::Between => is_array($value) ? [$day($value[0] ?? ''), $day($value[1] ?? '')] : null,
            Test::Today => [$today->format('Y-m-d'), $today->format('Y-m-d')],
            // Weeks begin on Monday (ISO 8601).
            Test::ThisWeek => [
                $today->copy()->startOfWeek(\Carbon\CarbonInterface::MONDAY)->format('Y-m-d'),
                $today->copy()->endOfWeek(\Carbon\CarbonInterface::SUNDAY)->format('Y-m-d'),
            ],
            // Today and the days before it, so many in all.
            Test::LastDays => [
                $today->copy()->subDays((int) (is_scalar($value) ? $value : 1) - 1)->format('Y-m-d'),
                $today->format('Y-m-d'),
            ],
            default => null,
        };
    }
}
