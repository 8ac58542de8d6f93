<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Problem;

/** Finds the row of heads of a table, and gives every column a name of its own. */
final readonly class HeadRow
{
    /** Rows in which titles and merged cells may stand above the heads. */
    public const ROWS = 12;

    /**
     * @param  int  $row  number of the row of heads, 0 where there is none
     * @param  list<string>  $names
     * @param  list<Problem>  $notes
     */
    private function __construct(public int $row, public array $names, public array $notes)
    {
    }

    /** @param  array<int, list<string>>  $rows  the first rows, by number */
    public static function find(array $rows): self
    {
        $rows = array_filter($rows, static fn (array $r): bool => implode('', $r) !== '');
        $widths = array_map(self::filled(...), $rows);
        sort($widths);
        $usual = $widths[intdiv(count($widths), 2)] ?? 0;
        foreach (array_slice($rows, 0, self::ROWS, true) as $number => $row) {
            if (self::filled($row) * 5 >= $usual * 3) {
                // The first row of values, where a table has no heads: numbers stand in it as in those below.
                return self::at($rows, self::looksLikeValues($row, $rows) ? 0 : $number);
            }
        }

        return self::at($rows, (int) (array_key_first($rows) ?? 0));
    }

    /** @param  array<int, list<string>>  $rows */
    public static function at(array $rows, int $number): self
    {
        $width = max([0, ...array_map(count(...), array_values($rows))]);
        $given = $number === 0 ? [] : $rows[$number] ?? [];
        $names = $notes = $seen = [];
        $written = array_map(static fn (string $g): string => mb_strtolower(self::clean($g)), $given);
        for ($i = 0; $i < max($width, count($given)); $i++) {
            $name = self::clean($given[$i] ?? '');
            $plain = $name === '' ? 'Column '.self::letter($i) : $name;
            $unique = $plain;
            // Also of names that come later: they are what somebody wrote.
            for (
                $n = 2;
                isset($seen[mb_strtolower($unique)]) ||
                ($name === '' && in_array(mb_strtolower($unique), $written, true));
                $n++
            ) {
                $unique = "$plain $n";
            }
            if ($name !== '' && $unique !== $plain) {
                $notes[] = new Problem('intake_head_doubled', 'file', $plain, ['name' => $plain, 'now' => $unique]);
            }
            $name = $unique;
            $seen[mb_strtolower($name)] = true;
            $names[] = $name;
        }
        // Columns without name and value are what a spreadsheet leaves at its right.
        while (
            $names !== [] &&
            ($given[count($names) - 1] ?? '') === '' &&
            ! array_filter($rows, static fn (array $r): bool => ($r[count($names) - 1] ?? '') !== '')
        ) {
            array_pop($names);
        }
        if ($number === 0) {
            $notes[] = new Problem('intake_no_heads', 'file');
        } elseif ($number > 1) {
            $notes[] = new Problem('intake_head_row', 'file', $number, ['row' => $number]);
        }

        return new self($number, $names, $notes);
    }

    private static function clean(string $head): string
    {
        return mb_substr(trim((string) preg_replace('/[\s\x{FEFF}]+/u', ' ', mb_scrub($head))), 0, 120);
    }

    /** As spreadsheets name their columns: A to Z, AA and so on. */
    public static function letter(int $i): string
    {
        return ($i >= 26 ? self::letter(intdiv($i, 26) - 1) : '').chr(65 + ($i % 26));
    }

    /**
     * @param  list<string>  $row
     * @param  array<int, list<string>>  $rows
     */
    private static function looksLikeValues(array $row, array $rows): bool
    {
        $numbers = array_keys(
            array_filter(
                $row,
                static fn (string $c): bool => preg_match('/^\s*[-+]?\d+([.,]\d+)?\s*$|^\d{1,4}[-.\/]\d/D', $c) === 1,
            ),
        );
        if ($numbers === []) {
            return false;
        }
        // Years as heads (2021, 2022, 2023) are heads all the same, if no year stands below them.
        $below = array_slice(array_values($rows), 1, 5);

        return ! array_filter(
            $numbers,
            static fn (int $i): bool => preg_match('/^(19|20)\d\d$/D', trim($row[$i])) === 1 &&
                ! array_filter(
                    $below,
                    static fn (array $r): bool => preg_match('/^(19|20)\d\d$/D', trim($r[$i] ?? '')) === 1,
                ),
        );
    }

    /** @param  list<string>  $row */
    private static function filled(array $row): int
    {
        return count(array_filter($row, static fn (string $c): bool => trim($c) !== ''));
    }
}
