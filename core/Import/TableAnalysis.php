<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Design\FieldKind;
use PinYard\Problem;

/** Goes once through the rows of a table and says what its columns hold. */
final class TableAnalysis
{
    /** Beyond so many rows the rest is only counted. */
    public const LOOKED_AT = 200_000;

    private const CLOSELY = 20_000;

    private const EVERY = 11;

    /** @var list<ColumnTally> */
    public array $tallies;

    public int $rows = 0;

    public int $longer = 0;

    /** @var list<Problem> what was taken for one thing though it could be another */
    public array $notes = [];

    /** @var array<string, int> kinds of geometry, by their names in well-known text */
    public array $shapes = [];

    /**
     * @param  list<string>  $names
     * @param  list<string|null>  $told  kinds that the file itself names
     */
    public function __construct(public array $names, private array $told = [])
    {
        $this->tallies = array_map(static fn (): ColumnTally => new ColumnTally, $names);
    }

    /** @param  list<string>  $cells */
    public function add(array $cells, ?string $wkt): void
    {
        if ($wkt !== null) {
            $kind = strtoupper(substr($wkt, 0, strcspn($wkt, ' (')));
            $kind = str_replace('MULTI', '', $kind);
            $this->shapes[$kind] = ($this->shapes[$kind] ?? 0) + 1;
        }
        if (++$this->rows > self::LOOKED_AT) {
            return;
        }
        // Of a long table the kinds are told by its beginning and by every so manieth row after; which values there are
        // by all of them.
        $closely = $this->rows <= self::CLOSELY || $this->rows % self::EVERY === 0;
        foreach ($this->tallies as $i => $tally) {
            if ($closely || ! $tally->many) {
                $tally->add($cells[$i] ?? '', $closely);
            }
        }
        $this->longer +=
            (int) (count($cells) > count($this->tallies) &&
                implode('', array_slice($cells, count($this->tallies))) !== '');
    }

    /** @return list<ColumnGuess> */
    public function guesses(): array
    {
        $guesses = [];
        foreach ($this->tallies as $i => $tally) {
            $told = $this->told[$i] ?? null;
            $guesses[] = ColumnGuess::of($tally, $told === null ? null : FieldKind::tryFrom($told));
        }

        return $this->alike($guesses);
    }

    /**
     * One file is written in one manner: numbers that could be read in two ways follow the other columns, and dates of
     * which one column says day first and another month first are asked about.
     *
     * @param  list<ColumnGuess>  $guesses
     * @return list<ColumnGuess>
     */
    private function alike(array $guesses): array
    {
        $unclear = $clear = $orders = [];
        foreach ($guesses as $i => $guess) {
            $could = $this->tallies[$i]->could;
            if ($guess->kind->isNumber() && ($this->told[$i] ?? null) === null) {
                if ($could['point'] !== $could['comma']) {
                    $clear[(int) ($could['comma'] > $could['point'])] = true;
                } elseif ($could['unclear'] > 0) {
                    $unclear[] = $i;
                }
            }
            if ($guess->order === 'dmy' || $guess->order === 'mdy') {
                $orders[$guess->order][] = $i;
            }
        }
        foreach ($unclear as $i) {
            $guesses[$i] = $guesses[$i]->withComma(isset($clear[1]) && ! isset($clear[0]));
            $sample =
                array_values(
                    array_filter(
                        $this->tallies[$i]->samples,
                        static fn (string $s): bool => NumberText::read($s, true) !== NumberText::read($s, false),
                    ),
                )[0] ?? '';
            $this->notes[] = new Problem(
                $guesses[$i]->comma ? 'intake_comma_assumed' : 'intake_point_assumed',
                "columns/$i",
                $sample,
                [
                    'column' => $this->names[$i],
                    'value' => $sample,
                    'read' => NumberText::read($sample, $guesses[$i]->comma),
                ],
            );
        }
        if (count($orders) > 1) {
            foreach (array_merge(...array_values($orders)) as $i) {
                $guesses[$i] = $guesses[$i]->undecided();
            }
        }

        return array_values($guesses);
    }

    /** @return 'point'|'line'|'area' the kind of geometry that most rows have */
    public function geometry(): string
    {
        $shapes = array_intersect_key($this->shapes, ['POINT' => 1, 'LINESTRING' => 1, 'POLYGON' => 1]);
        arsort($shapes);

        return match (array_key_first($shapes)) {
            'LINESTRING' => 'line',
            'POLYGON' => 'area',
            default => 'point',
        };
    }
}
