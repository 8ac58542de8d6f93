<?php

declare(strict_types=1);

namespace App\Layers;

use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Formula\Functions;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Lambert;

/**
 * A formula's tree as one SQL expression over a layer's table, with the same answers as core/Formula/Evaluator;
 * tests/vectors/formulas.json holds the cases. Only what was checked comes here, so every name is a field's,
 * and every literal is quoted by the connection.
 *
 * Numbers are DOUBLE, texts compare byte by byte, moments are text in UTC as in JSON, yes and no are 1 and 0.
 */
final class FormulaSql
{
    private const TEXT = 'COLLATE utf8mb4_nopad_bin';

    private const MOST_LABELS = 300;

    /** Characters of a statement; some parts stand in it more than once, and nested ones grow fast. */
    private const LONGEST = 120_000;

    /** @param  \Closure(string): string  $quote */
    private function __construct(
        private readonly LayerDesign $design,
        private readonly \DateTimeZone $zone,
        private readonly \DateTimeImmutable $now,
        private readonly \Closure $quote,
        private readonly ?VisitSql $visits,
    ) {
    }

    /**
     * @param  \Closure(string): string  $quote  the connection's way to write a text literal
     * @return string|null null where SQL cannot give the same answer; the records then go through PHP
     */
    public static function of(
        Formula $formula,
        LayerDesign $design,
        \DateTimeZone $zone,
        \DateTimeImmutable $now,
        \Closure $quote,
        ?VisitSql $visits = null,
    ): ?string {
        try {
            return (new self($design, $zone, $now, $quote, $visits))->sql($formula->tree);
        } catch (NotInSql) {
            return null;
        }
    }

    /** @param  list<mixed>  $n */
    private function sql(array $n): string
    {
        $sql = $this->part($n);

        return strlen($sql) > self::LONGEST ? throw new NotInSql : $sql;
    }

    /** @param  list<mixed>  $n */
    private function part(array $n): string
    {
        [$op] = $n;
        switch ($op) {
            case 'n':
                return 'CAST('.sprintf('%.17e', $n[1]).' AS DOUBLE)';
            case 's':
                return $this->text($n[1]);
            case 'b':
                return $n[1] ? '1' : '0';
            case 'z':
                return 'NULL';
            case 'f':
                return $this->field($n[1]);
            case 'in':
                $values = array_map(
                    fn (mixed $v): string => is_float($v) ? $this->sql(['n', $v]) : $this->text($v),
                    array_slice($n[2], 1),
                );

                return '('.$this->sql($n[1]).' IN ('.implode(', ', $values).'))';
            case 'area_of':
                // Which of many areas a place lies in is quicker found outside.
                throw new NotInSql;
            case 'latest_visit':
                return $this->visits === null
                    ? 'NULL'
                    : $this->column($this->visits->latest($n[1]), $this->visits->kind($n[1]));
            case 'label':
            case 'labels':
                return $this->label($n);
            case 'text_date':
            case 'text_instant':
                return $this->shaped($n);
        }
        $a = array_map($this->sql(...), array_slice($n, 1));

        return match ($op) {
            'plus' => "({$a[0]} + {$a[1]})",
            'minus' => "({$a[0]} - {$a[1]})",
            'times' => "({$a[0]} * {$a[1]})",
            'over' => "({$a[0]} / NULLIF({$a[1]}, 0))",
            'rest' => "({$a[0]} % NULLIF({$a[1]}, 0))",
            // MariaDB stops at a power that is too large, where the others say "missing".
            'power' => throw new NotInSql,
            'minus_of' => "(-{$a[0]})",
            'same' => $a[0],
            'not' => "(NOT {$a[0]})",
            'and' => "({$a[0]} AND {$a[1]})",
            'or' => "({$a[0]} OR {$a[1]})",
            'eq', 'eq_text' => "({$a[0]} = {$a[1]})",
            'ne', 'ne_text' => "({$a[0]} <> {$a[1]})",
            'lt' => "({$a[0]} < {$a[1]})",
            'le' => "({$a[0]} <= {$a[1]})",
            'gt' => "({$a[0]} > {$a[1]})",
            'ge' => "({$a[0]} >= {$a[1]})",
            'choose' => "(CASE WHEN {$a[0]} IS NULL THEN NULL WHEN {$a[0]} THEN {$a[1]} ELSE {$a[2]} END)",
            'first_given' => 'COALESCE('.implode(', ', $a).')',
            'missing' => "({$a[0]} IS NULL)",
            'given' => "({$a[0]} IS NOT NULL)",
            'join' => 'CASE WHEN COALESCE('.
                implode(', ', array_slice($a, 1)).
                ') IS NULL THEN NULL ELSE CONCAT_WS('.
                implode(', ', $a).
                ') END',
            'cat' => "CONCAT({$a[0]}, {$a[1]})",
            'contains' => "(LOCATE({$a[1]}, {$a[0]}) > 0)",
            'starts' => "(LEFT({$a[0]}, CHAR_LENGTH({$a[1]})) = {$a[1]})",
            'ends' => "(RIGHT({$a[0]}, CHAR_LENGTH({$a[1]})) = {$a[1]})",
            'round' => $this->round($a[0], (int) ($n[2][1] ?? 0)),
            'ceiling' => "CEILING({$a[0]})",
            'floor' => "FLOOR({$a[0]})",
            'absolute' => "ABS({$a[0]})",
            'root' => "SQRT({$a[0]})",
            'least' => 'LEAST('.implode(', ', $a).')',
            'most' => 'GREATEST('.implode(', ', $a).')',
            'number' => "(CASE WHEN {$a[0]} REGEXP '^[[:space:]]*[+-]?[0-9]{1,15}([.][0-9]{1,15})?[[:space:]]*\$' "
                ."THEN CAST(TRIM({$a[0]}) AS DOUBLE) END)",
            'text_number' => $this->numberText($a[0], isset($n[2]) ? (int) $n[2][1] : null),
            'length' => "CAST(CHAR_LENGTH({$a[0]}) AS DOUBLE)",
            'part' => "(CASE WHEN {$a[1]} < 1 OR "
                ."{$a[2]} < 0 THEN NULL ELSE SUBSTRING({$a[0]}, FLOOR({$a[1]}), FLOOR({$a[2]})) END)",
            'has' => "(FIND_IN_SET({$a[1]}, {$a[0]}) > 0)",
            'count' => "CAST(CHAR_LENGTH({$a[0]}) - CHAR_LENGTH(REPLACE({$a[0]}, ',', '')) + 1 AS DOUBLE)",
            'between_dates' => $this->betweenDates($a[0], $a[1], $n[3][1]),
            'between_instants' => "(CAST(TIMESTAMPDIFF(SECOND, {$this->when($a[0])}, {$this->when(
                $a[1],
            )}) AS DOUBLE) / ".
                Functions::UNITS[$n[3][1]].
                ')',
            'between_times' => "(CAST(TIME_TO_SEC({$a[1]}) - TIME_TO_SEC({$a[0]}) AS DOUBLE) / ".
                Functions::UNITS[$n[3][1]].
                ')',
            'add_date' => $this->addToDate($a[0], $a[1], $n[3][1]),
            'add_instant' => "(CASE WHEN ABS({$a[1]}) > 1e9 THEN NULL ELSE ".
                $this->asInstant(
                    "DATE_ADD({$this->when($a[0])}, INTERVAL FLOOR({$a[1]} * ".
                        Functions::UNITS[$n[3][1]].
                        ') SECOND)',
                ).
                ' END)',
            'today' => $this->text($this->now->setTimezone($this->zone)->format('Y-m-d')),
            'now' => $this->text(\PinYard\Formula\Moment::of($this->now)),
            'date' => $this->date($a),
            'at' => $this->asInstant($this->toUtc("CAST(CONCAT({$a[0]}, ' ', {$a[1]}) AS DATETIME)")),
            'date_of' => "CAST(DATE({$this->toLocal($this->when($a[0]))}) AS CHAR) ".self::TEXT,
            'time_of' => "(CASE WHEN SECOND({$this->when($a[0])}) = 0 THEN DATE_FORMAT({$this->toLocal(
                $this->when($a[0]),
            )}, '%H:%i') ELSE DATE_FORMAT({$this->toLocal($this->when($a[0]))}, '%H:%i:%s') END) ".self::TEXT,
            'year' => "CAST(YEAR({$a[0]}) AS DOUBLE)",
            'month' => "CAST(MONTH({$a[0]}) AS DOUBLE)",
            'day' => "CAST(DAY({$a[0]}) AS DOUBLE)",
            'weekday' => "CAST(WEEKDAY({$a[0]}) + 1 AS DOUBLE)",
            'hour' => "CAST(HOUR({$a[0]}) AS DOUBLE)",
            'minute' => "CAST(MINUTE({$a[0]}) AS DOUBLE)",
            'longitude' => 'lon',
            'latitude' => 'lat',
            'altitude' => 'altitude',
            'line_length' => $this->design->geometry === GeometryKind::Point ? 'NULL' : 'length_m',
            'area_size' => $this->design->geometry === GeometryKind::Area ? 'area_m2' : 'NULL',
            'visits' => $this->visits === null ? 'CAST(0 AS DOUBLE)' : $this->visits->count(),
            'distance_to' => "(CASE WHEN ABS({$a[1]}) > 90 OR ABS({$a[0]}) > 180 THEN NULL ELSE ".
                self::lambert($a[0], $a[1]).
                ' END)',
            default => throw new NotInSql,
        };
    }

    private function text(string $text): string
    {
        return '('.($this->quote)($text).' '.self::TEXT.')';
    }

    private function field(string $key): string
    {
        $field = $this->design->field($key) ?? throw new NotInSql;

        return $this->column('`'.$field->column().'`', $field->valueKind());
    }

    /** What a column holds, in the form in which formulas see it. */
    private function column(string $column, FieldKind $kind): string
    {
        return match ($kind) {
            FieldKind::WholeNumber, FieldKind::Decimal => "CAST($column AS DOUBLE)",
            FieldKind::YesNo => $column,
            FieldKind::Date => "(CAST($column AS CHAR) ".self::TEXT.')',
            FieldKind::Time => '(CASE WHEN '
                ."SECOND($column) = 0 THEN TIME_FORMAT($column, '%H:%i') ELSE TIME_FORMAT($column, '%H:%i:%s') END ".
                self::TEXT.
                ')',
            FieldKind::DateTime => $this->asInstant($column),
            default => "(NULLIF(CONVERT($column USING utf8mb4), '') ".self::TEXT.')',
        };
    }

    /** A moment that is text as a DATETIME in UTC. */
    private function when(string $text): string
    {
        return "CAST(REPLACE(REPLACE($text, 'T', ' '), 'Z', '') AS DATETIME)";
    }

    private function asInstant(string $datetime): string
    {
        return "(DATE_FORMAT($datetime, '%Y-%m-%dT%H:%i:%sZ') ".self::TEXT.')';
    }

    private function round(string $x, int $digits): string
    {
        $scale = sprintf('%.17e', 10.0 ** abs($digits));

        return $digits >= 0
            ? "(SIGN($x) * FLOOR(ABS($x) * $scale + 0.5e0) / $scale)"
            : "(SIGN($x) * FLOOR(ABS($x) / $scale + 0.5e0) * $scale)";
    }

    private function numberText(string $x, ?int $decimals): string
    {
        $digits = $decimals ?? 6;
        $fixed = "CAST(CAST({$this->round($x, $digits)} AS DECIMAL(38, ".max(0, $digits).')) AS CHAR)';
        $shown = $decimals === null ? "TRIM(TRAILING '.' FROM TRIM(TRAILING '0' FROM $fixed))" : $fixed;

        return $digits < 0 ? 'NULL' : "((CASE WHEN ABS($x) >= 1e15 THEN NULL ELSE $shown END) ".self::TEXT.')';
    }

    private function betweenDates(string $from, string $to, string $unit): string
    {
        return match ($unit) {
            'days' => "CAST(DATEDIFF($to, $from) AS DOUBLE)",
            'weeks' => "(CAST(DATEDIFF($to, $from) AS DOUBLE) / 7)",
            'months' => "CAST(TIMESTAMPDIFF(MONTH, $from, $to) AS DOUBLE)",
            default => "CAST(TIMESTAMPDIFF(MONTH, $from, $to) DIV 12 AS DOUBLE)",
        };
    }

    private function addToDate(string $date, string $amount, string $unit): string
    {
        [$factor, $word] = [
            'days' => [1, 'DAY'],
            'weeks' => [7, 'DAY'],
            'months' => [1, 'MONTH'],
            'years' => [12, 'MONTH'],
        ][$unit];
        $added = "DATE_ADD(CAST($date AS DATE), INTERVAL FLOOR($amount * $factor) $word)";

        return "(CASE WHEN ABS($amount) > 1e6 OR YEAR($added) < 1000 THEN NULL ELSE CAST($added AS CHAR) END ".
            self::TEXT.
            ')';
    }

    /** @param  list<string>  $a */
    private function date(array $a): string
    {
        $text = "CONCAT(LPAD(TRUNCATE({$a[0]}, 0), 4, '0'), '-', "
            ."LPAD(TRUNCATE({$a[1]}, 0), 2, '0'), '-', LPAD(TRUNCATE({$a[2]}, 0), 2, '0'))";
        // A CAST of an impossible date gives NULL; limits keep LPAD from cutting longer numbers.
        $fits = "{$a[0]} >= 1000 AND "
            ."{$a[0]} < 10000 AND {$a[1]} >= 1 AND {$a[1]} < 13 AND {$a[2]} >= 1 AND {$a[2]} < 32";

        return "(CASE WHEN $fits THEN CAST(CAST($text AS DATE) AS CHAR) END ".self::TEXT.')';
    }

    /** @param  list<mixed>  $n */
    private function shaped(array $n): string
    {
        $value = $this->sql($n[1]);
        $when = $n[0] === 'text_date' ? "CAST($value AS DATETIME)" : $this->toLocal($this->when($value));
        $shape = strtr(str_replace('%', '%%', (string) $n[2][1]), [
            'YYYY' => '%Y',
            'MM' => '%m',
            'DD' => '%d',
            'hh' => '%H',
            'mm' => '%i',
        ]);

        return "(DATE_FORMAT($when, ".($this->quote)($shape).') '.self::TEXT.')';
    }

    /** @param  list<mixed>  $n */
    private function label(array $n): string
    {
        $field = $n[1][0] === 'f' ? $this->design->field($n[1][1]) : null;
        if ($n[0] === 'labels' || $field === null || count($field->choices) > self::MOST_LABELS) {
            throw new NotInSql;
        }
        $column = $this->field($field->key);
        $cases = implode(
            ' ',
            array_map(
                fn ($c): string => 'WHEN '.$this->text($c->code).' THEN '.$this->text($c->label),
                $field->choices,
            ),
        );

        return "(CASE $column $cases ELSE $column END)";
    }

    /** The offset is picked by where the zone's clock was changed; MariaDB's own zone tables may not be loaded. */
    private function toLocal(string $utc): string
    {
        return "DATE_ADD($utc, INTERVAL ".
            $this->offsets($utc, static fn (int $at, int $before, int $after): int => $at).
            ' SECOND)';
    }

    private function toUtc(string $wall): string
    {
        // Of an hour that comes twice the first, of one that is left out the later: the earlier offset rules until both
        // are past.
        return "DATE_SUB($wall, INTERVAL ".
            $this->offsets($wall, static fn (int $at, int $before, int $after): int => $at + max($before, $after)).
            ' SECOND)';
    }

    /** @param  \Closure(int, int, int): int  $threshold */
    private function offsets(string $when, \Closure $threshold): string
    {
        $from = -5_000_000_000;
        $changes = $this->zone->getTransitions($from, 4_102_444_800) ?: [];
        $before = (int) ($changes[0]['offset'] ?? 0);
        $case = '';
        foreach (array_slice($changes, 1) as $change) {
            if ($change['offset'] !== $before) {
                $case .=
                    " WHEN $when < '".
                    gmdate('Y-m-d H:i:s', $threshold($change['ts'], $before, $change['offset'])).
                    "' THEN $before";
                $before = $change['offset'];
            }
        }

        return $case === '' ? (string) $before : "(CASE$case ELSE $before END)";
    }

    private static function lambert(string $lon, string $lat): string
    {
        $k = sprintf('%.17e', 1 - Lambert::FLATTENING);
        $half = sprintf('%.17e', Lambert::FLATTENING / 2);
        $b1 = "ATAN($k * TAN(RADIANS(lat)))";
        $b2 = "ATAN($k * TAN(RADIANS($lat)))";
        $h = "(POW(SIN(($b2 - $b1) / 2), 2) + COS($b1) * COS($b2) * POW(SIN(RADIANS($lon - lon) / 2), 2))";
        $angle = "(2 * ASIN(LEAST(1, SQRT($h))))";
        $x = "(($angle - SIN($angle)) * "
            ."POW(SIN(($b1 + $b2) / 2), 2) * POW(COS(($b2 - $b1) / 2), 2) / GREATEST(1e-300, POW(COS($angle / 2), 2)))";
        $y = "(($angle + SIN($angle)) * "
            ."POW(COS(($b1 + $b2) / 2), 2) * POW(SIN(($b2 - $b1) / 2), 2) / POW(SIN($angle / 2), 2))";

        return "(CASE WHEN $h = 0 THEN 0 ELSE ".Lambert::RADIUS.".0e0 * ($angle - $half * ($x + $y)) END)";
    }
}
