<?php

declare(strict_types=1);

namespace PinYard\Intake;

use PinYard\Design\FieldKind;

/** Goes once through the rows of a table and says what its columns hold. */
final class Analysis
{
    /** Beyond so many rows the rest is only counted. */
    public const LOOKED_AT = 200_000;

    private const CLOSELY = 20_000;

    private const EVERY = 11;

    /** @var list<ColumnTally> */
    public array $tallies;

    public int $rows = 0;

    public int $longer = 0;

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
        // Of a long table the kinds are told by its beginning and by every so manieth row after; which values there are by all of them.
        $closely = $this->rows <= self::CLOSELY || $this->rows % self::EVERY === 0;
        foreach ($this->tallies as $i => $tally) {
            if ($closely || ! $tally->many) {
                $tally->add($cells[$i] ?? '', $closely);
            }
        }
        $this->longer += (int) (count($cells) > count($this->tallies) && implode('', array_slice($cells, count($this->tallies))) !== '');
    }

    /** @return list<ColumnGuess> */
    public function guesses(): array
    {
        $guesses = [];
        foreach ($this->tallies as $i => $tally) {
            $told = $this->told[$i] ?? null;
            $guesses[] = ColumnGuess::of($tally, $told === null ? null : FieldKind::tryFrom($told));
        }

        return $guesses;
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
