<?php

declare(strict_types=1);

namespace PinYard\Formula;

use PinYard\Geo\Lambert;

/**
 * Works out the portable tree for one record. App\Layers\FormulaSql and shared/form/formula.ts do the same by other
 * means; tests/vectors/formulas.json holds the cases that all must answer alike.
 */
final readonly class Evaluator
{
    public function __construct(private Surroundings $in)
    {
    }

    /**
     * @param  list<mixed>  $n
     * @return float|string|bool|list<string>|null
     */
    public function value(array $n): float|string|bool|array|null
    {
        $op = is_string($n[0] ?? null) ? $n[0] : '';
        switch ($op) {
            case 'n':
            case 's':
            case 'b':
                return self::plain($n[1] ?? null, true);
            case 'z':
                return null;
            case 'f':
                return self::plain($this->in->values[self::word($n)] ?? null);
            case 'area_of':
                return $this->areaOf(self::word($n), is_string($n[2] ?? null) ? $n[2] : '');
            case 'latest_visit':
                return self::plain($this->in->latest[self::word($n)] ?? null);
            case 'and':
                return $this->either($n, false);
            case 'or':
                return $this->either($n, true);
            case 'choose':
                $condition = $this->value(self::part($n, 1));

                return $condition === null ? null : $this->value(self::part($n, $condition === true ? 2 : 3));
            case 'first_given':
                foreach (self::parts($n) as $part) {
                    if (($value = $this->value($part)) !== null) {
                        return $value;
                    }
                }

                return null;
            case 'missing':
                return $this->value(self::part($n, 1)) === null;
            case 'given':
                return $this->value(self::part($n, 1)) !== null;
            case 'join':
                $parts = array_map($this->value(...), self::parts($n));
                $separator = array_shift($parts);
                $parts = array_filter($parts, is_string(...));

                return ! is_string($separator) || $parts === [] ? null : implode($separator, $parts);
            case 'in':
                $value = $this->value(self::part($n, 1));

                return $value === null ? null : in_array($value, array_slice(self::part($n, 2), 1), true);
            case 'label':
            case 'labels':
                return $this->label(self::part($n, 1));
        }
        $a = [];
        foreach (self::parts($n) as $part) {
            if (($value = $this->value($part)) === null) {
                return null;
            }
            $a[] = $value;
        }
        $result = $this->operation($op, $a);

        return is_float($result) ? (is_finite($result) ? $result + 0.0 : null) : $result;
    }

    /**
     * The checker has seen to it that each part is of the type that its operation needs.
     *
     * @param  list<float|string|bool|list<string>>  $a none of them missing
     */
    private function operation(string $op, array $a): float|string|bool|null
    {
        [$x, $y, $z] = self::floats($a);
        [$s, $t, $u] = self::texts($a);
        $list = is_array($a[0] ?? null) ? $a[0] : [];

        return match ($op) {
            'plus' => $x + $y,
            'minus' => $x - $y,
            'times' => $x * $y,
            'over' => $y === 0.0 || $y === -0.0 ? null : $x / $y,
            'rest' => $y === 0.0 || $y === -0.0 ? null : fmod($x, $y),
            'power' => (($x === 0.0 || $x === -0.0) && $y < 0) || ($x < 0 && floor($y) !== $y)
                ? null
                : (float) ($x ** $y),
            'minus_of' => -$x,
            'same' => $x,
            'not' => ($a[0] ?? null) !== true,
            'eq', 'eq_text' => $a[0] === $a[1],
            'ne', 'ne_text' => $a[0] !== $a[1],
            'lt' => self::compare($a) < 0,
            'le' => self::compare($a) <= 0,
            'gt' => self::compare($a) > 0,
            'ge' => self::compare($a) >= 0,
            'cat' => $s.$t,
            'contains' => str_contains($s, $t),
            'starts' => str_starts_with($s, $t),
            'ends' => str_ends_with($s, $t),
            'round' => self::round($x, (int) $y),
            'ceiling' => ceil($x),
            'floor' => floor($x),
            'absolute' => abs($x),
            'root' => $x < 0 ? null : sqrt($x),
            'least' => self::end($a, -1),
            'most' => self::end($a, 1),
            'number' => preg_match('/^\s*[+-]?\d{1,15}(\.\d{1,15})?\s*$/D', $s) === 1 ? (float) $s : null,
            'text_number' => self::numberText($x, isset($a[1]) ? (int) $y : null),
            'text_date' => self::shaped($t, $s, '00:00'),
            'text_instant' => self::shaped(
                $t,
                Moment::local($s, $this->in->zone, 'Y-m-d'),
                Moment::local($s, $this->in->zone, 'H:i'),
            ),
            'length' => (float) mb_strlen($s),
            'part' => $y < 1 || $z < 0 ? null : mb_substr($s, (int) $y - 1, (int) $z),
            'upper' => mb_strtoupper($s),
            'lower' => mb_strtolower($s),
            'has' => in_array($t, $list, true),
            'count' => (float) count($list),
            'between_dates' => self::betweenDates($s, $t, $u),
            'between_instants' => (Moment::seconds($t) - Moment::seconds($s)) / self::unit($u),
            'between_times' => (self::daySeconds($t) - self::daySeconds($s)) / self::unit($u),
            'add_date' => self::addToDate($s, $y, $u),
            'add_instant' => abs($y) > 1e9
                ? null
                : Moment::instant(gmdate('Y-m-d\TH:i:s\Z', Moment::seconds($s) + (int) floor($y * self::unit($u)))),
            'today' => $this->in->now->setTimezone($this->in->zone)->format('Y-m-d'),
            'now' => Moment::of($this->in->now),
            'date' => max(abs($x), abs($y), abs($z)) > 9999
                ? null
                : Moment::date(sprintf('%04d-%02d-%02d', $x, $y, $z)),
            'at' => Moment::at($s, $t, $this->in->zone),
            'date_of' => Moment::local($s, $this->in->zone, 'Y-m-d'),
            'time_of' => Moment::time(Moment::local($s, $this->in->zone, 'H:i:s')),
            'year' => (float) substr($s, 0, 4),
            'month' => (float) substr($s, 5, 2),
            'day' => (float) substr($s, 8, 2),
            'weekday' => (float) gmdate('N', Moment::seconds($s)),
            'hour' => (float) substr($s, 0, 2),
            'minute' => (float) substr($s, 3, 2),
            'longitude' => $this->in->lon,
            'latitude' => $this->in->lat,
            'altitude' => $this->in->altitude,
            'line_length' => $this->in->length,
            'area_size' => $this->in->area,
            'visits' => (float) $this->in->visits,
            'distance_to' => $this->in->lon === null || $this->in->lat === null || abs($y) > 90 || abs($x) > 180
                ? null
                : Lambert::metres($this->in->lon, $this->in->lat, $x, $y),
            default => throw new \LogicException("unknown operation $op"),
        };
    }

    /** @return string|float|bool|list<string>|null */
    private function areaOf(string $title, string $key): string|float|bool|array|null
    {
        if ($this->in->areas === null || $this->in->lon === null || $this->in->lat === null) {
            return null;
        }

        return self::plain(($this->in->areas)($title, $this->in->lon, $this->in->lat)[$key] ?? null);
    }

    /**
     * Three-valued: a missing part decides nothing that the other has not decided.
     *
     * @param  list<mixed>  $n
     */
    private function either(array $n, bool $decides): ?bool
    {
        $left = $this->value(self::part($n, 1));
        if ($left === $decides) {
            return $decides;
        }
        $right = $this->value(self::part($n, 2));

        return $right === $decides ? $decides : ($left === null || $right === null ? null : ! $decides);
    }

    /** @param  list<mixed>  $n */
    private function label(array $n): ?string
    {
        $value = $this->value($n);
        if ($value === null || ($n[0] ?? null) !== 'f') {
            return is_string($value) ? $value : null;
        }
        $labels = $this->in->labels[self::word($n)] ?? [];

        return implode(
            ', ',
            array_map(
                static fn (string $code): string => $labels[$code] ?? $code,
                is_array($value) ? $value : [(string) $value],
            ),
        );
    }

    /**
     * @param  list<mixed>  $n
     * @return list<mixed>
     */
    private static function part(array $n, int $i): array
    {
        $part = $n[$i] ?? null;

        return is_array($part) && array_is_list($part) ? $part : ['z'];
    }

    /**
     * @param  list<mixed>  $n
     * @return list<list<mixed>>
     */
    private static function parts(array $n): array
    {
        $parts = [];
        for ($i = 1, $count = count($n); $i < $count; $i++) {
            $parts[] = self::part($n, $i);
        }

        return $parts;
    }

    /** @param  list<mixed>  $n */
    private static function word(array $n): string
    {
        return is_string($n[1] ?? null) ? $n[1] : '';
    }

    /**
     * @param  list<float|string|bool|list<string>>  $a
     * @return array{float, float, float}
     */
    private static function floats(array $a): array
    {
        return [
            is_float($a[0] ?? null) ? $a[0] : 0.0,
            is_float($a[1] ?? null) ? $a[1] : 0.0,
            is_float($a[2] ?? null) ? $a[2] : 0.0,
        ];
    }

    /**
     * @param  list<float|string|bool|list<string>>  $a
     * @return array{string, string, string}
     */
    private static function texts(array $a): array
    {
        return [
            is_string($a[0] ?? null) ? $a[0] : '',
            is_string($a[1] ?? null) ? $a[1] : '',
            is_string($a[2] ?? null) ? $a[2] : '',
        ];
    }

    /** @param  list<float|string|bool|list<string>>  $a two numbers, or two texts whose order is that of time */
    private static function compare(array $a): int
    {
        [$x, $y] = self::floats($a);
        [$s, $t] = self::texts($a);

        return is_string($a[0] ?? null) ? strcmp($s, $t) : $x <=> $y;
    }

    /** @param  list<float|string|bool|list<string>>  $a */
    private static function end(array $a, int $sign): float|string|bool|null
    {
        $end = $a[0] ?? null;
        foreach ($a as $value) {
            if ($end !== null && self::compare([$value, $end]) * $sign > 0) {
                $end = $value;
            }
        }

        return is_array($end) ? null : $end;
    }

    private static function unit(string $unit): int
    {
        return Functions::UNITS[$unit] ?? throw new \LogicException("no length of its own: $unit");
    }

    /**
     * Numbers are floats here, whatever kind of field they come from.
     *
     * @return float|string|bool|list<string>|null
     */
    private static function plain(mixed $value, bool $literal = false): float|string|bool|array|null
    {
        return match (true) {
            is_int($value) => (float) $value,
            is_float($value), is_bool($value) => $value,
            is_string($value) => $value === '' && ! $literal ? null : $value,
            is_array($value) && $value !== [] => array_values(array_filter($value, is_string(...))),
            default => null,
        };
    }

    /** Half away from zero, in the very steps that SQL and JavaScript can take too. */
    public static function round(float $x, int $digits): float
    {
        $scale = 10.0 ** abs($digits);
        $magnitude = $digits >= 0 ? floor(abs($x) * $scale + 0.5) / $scale : floor(abs($x) / $scale + 0.5) * $scale;

        return is_finite($magnitude) ? ($x < 0 ? -$magnitude : $magnitude) : $x;
    }

    /** With so many decimals, or with as many as it needs, up to six. */
    public static function numberText(float $x, ?int $decimals): ?string
    {
        if (abs($x) >= 1e15 || ($decimals !== null && $decimals < 0)) {
            return null;
        }
        $text = sprintf('%.'.($decimals ?? 6).'F', self::round($x, $decimals ?? 6) + 0.0);
        if ($decimals === null) {
            $text = rtrim(rtrim($text, '0'), '.');
        }

        return preg_match('/^-0(\.0*)?$/D', $text) === 1 ? substr($text, 1) : $text;
    }

    private static function shaped(string $shape, string $date, string $time): string
    {
        return strtr($shape, [
            'YYYY' => substr($date, 0, 4),
            'MM' => substr($date, 5, 2),
            'DD' => substr($date, 8, 2),
            'hh' => substr($time, 0, 2),
            'mm' => substr($time, 3, 2),
        ]);
    }

    private static function daySeconds(string $time): int
    {
        return (int) substr($time, 0, 2) * 3600 + (int) substr($time, 3, 2) * 60 + (int) (substr($time, 6, 2) ?: 0);
    }

    private static function betweenDates(string $from, string $to, string $unit): float
    {
        return match ($unit) {
            'days' => (float) Moment::days($from, $to),
            'weeks' => Moment::days($from, $to) / 7,
            'months' => (float) Moment::months($from, $to),
            default => (float) intdiv(Moment::months($from, $to), 12),
        };
    }

    private static function addToDate(string $date, float $amount, string $unit): ?string
    {
        if (abs($amount) > 1e6) {
            return null;
        }
        $whole = (int) floor($amount * (['days' => 1, 'weeks' => 7, 'months' => 1, 'years' => 12][$unit] ?? 0));

        return in_array($unit, ['days', 'weeks'], true)
            ? Moment::addDays($date, $whole)
            : Moment::addMonths($date, $whole);
    }
}
