<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use PinYard\Import\CsvRows;
use PinYard\Problem;

/** The rows of an import, whatever file they came from: read from one CSV text, as often as is wanted. */
final class ImportRows
{
    /** @var list<Problem> */
    public array $notes = [];

    public function __construct(private readonly Import $import)
    {
    }

    /**
     * @return \Generator<int, array{list<string>, string|null}> cells and well-known text by number of the row, as a
     *     spreadsheet counts them
     */
    public function rows(int $headRow): \Generator
    {
        foreach ($this->all() as $number => $row) {
            if ($number > $headRow) {
                yield $number => $row;
            }
        }
    }

    /** @return \Generator<int, array{list<string>, string|null}> with what stands above, and the heads */
    public function all(): \Generator
    {
        $source = (array) $this->import->source;
        $stream =
            fopen($this->import->folder((string) $source['path']), 'rb') ?:
            throw new \RuntimeException('the file of the import is gone');
        fseek($stream, (int) ($source['mark'] ?? 0));
        $wkt = (bool) ($source['wkt'] ?? false);
        $column = is_int($source['wkt_column'] ?? null) ? $source['wkt_column'] : null;
        // A coast may be long.
        $rows = $wkt
            ? new CsvRows($stream, ',', 67_108_864)
            : new CsvRows($stream, ((string) ($source['delimiter'] ?? '')) ?: ',');
        foreach ($rows->rows() as $number => $cells) {
            if ($wkt) {
                $geometry = array_shift($cells);
                yield $number => [$cells, $geometry];
            } else {
                yield $number => [$cells, $column === null ? null : $cells[$column] ?? ''];
            }
        }
        $this->notes = $rows->notes;
        fclose($stream);
    }

    /** @return array<int, list<string>> */
    public function first(int $most): array
    {
        $rows = [];
        foreach ($this->all() as $number => [$cells]) {
            $rows[$number] = $cells;
            if (count($rows) >= $most) {
                break;
            }
        }

        return $rows;
    }
}
