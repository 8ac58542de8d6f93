<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use App\Processes\LimitedProcess;
use App\Processes\OwnCommand;
use OpenSpout\Reader\Common\Creator\ReaderEntityFactory;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Makes CSV of one sheet of a spreadsheet. What a file says of its own size is not believed: rows and cells are counted
 * as they come.
 */
final class SheetRows
{
    /** Rows and columns of a sheet (ECMA-376, 18.3.1.73: 1,048,576 by 16,384; ODF programs have the same). */
    private const MOST_ROWS = 1_048_576;

    private const MOST_COLUMNS = 16_384;

    /** Of all sheets together; empty cells that a file repeats count. */
    private const MOST_CELLS = 60_000_000;

    /**
     * The same in a process of its own.
     *
     * @return array<string, mixed> as {@see write()}
     *
     * @throws Refused
     */
    public static function inChild(Import $import, string $path, string $name, ?string $wanted): array
    {
        $process = LimitedProcess::artisan()->run(
            OwnCommand::words(
                [
                    'sheet:read',
                    $path,
                    $name,
                    '--into='.$import->folder(),
                    ...$wanted === null ? [] : ["--table=$wanted"],
                ],
                ['memory_limit=384M'],
            ),
            [],
            static function () use ($import): bool {
                $import->progress(0);

                return $import->wantsStop();
            },
        );

        return self::answer($process, $name);
    }

    /**
     * @return array<mixed>
     *
     * @throws Refused
     */
    public static function answer(\Symfony\Component\Process\Process $process, string $name): array
    {
        $answer = json_decode($process->getOutput(), true);
        if (! is_array($answer)) {
            throw Refused::because(
                LimitedProcess::wasEnded($process) ? 'sheet_too_heavy' : 'sheet_unreadable',
                'file',
                $name,
                ['file' => $name],
            );
        }
        if (is_array($answer['refused'] ?? null)) {
            throw Refused::for(
                array_values(
                    array_map(
                        static fn (array $p): Problem => new Problem(
                            $p['code'],
                            $p['field'],
                            $p['value'],
                            $p['params'],
                        ),
                        $answer['refused'],
                    ),
                ),
            );
        }

        return $answer;
    }

    /**
     * @param  string  $folder  where `rows.csv` is written
     * @param  string|null  $wanted  which sheet; the first with rows where none is named
     * @return array{tables: list<array{name: string, rows: int}>, table: string}
     *
     * @throws Refused
     */
    public static function write(string $path, string $name, string $folder, ?string $wanted): array
    {
        $isOds = self::isOds($path, $name);
        $reader = $isOds ? ReaderEntityFactory::createODSReader() : ReaderEntityFactory::createXLSXReader();
        $reader->setShouldPreserveEmptyRows(true);
        $tables = [];
        $taken = null;
        $all = 0;
        try {
            $reader->open($path);
            foreach ($reader->getSheetIterator() as $sheet) {
                assert($sheet !== null);
                $out = fopen("$folder/sheet.csv", 'wb') ?: throw new \RuntimeException('cannot write');
                $rows = $number = 0;
                foreach ($sheet->getRowIterator() as $row) {
                    $cells = array_map(self::cell(...), $row->toArray());
                    $all += max(1, count($cells));
                    if (++$number > self::MOST_ROWS || count($cells) > self::MOST_COLUMNS || $all > self::MOST_CELLS) {
                        throw Refused::because('sheet_too_heavy', 'file', $name, ['file' => $name]);
                    }
                    $rows += (int) (implode('', $cells) !== '');
                    // An empty row keeps its number.
                    fputcsv($out, $cells === [] ? [''] : $cells, ',', '"', '');
                    if ($taken !== null && $rows > 1) {
                        // Of the other sheets just the name is wanted, and whether anything is on them.
                        break;
                    }
                }
                fclose($out);
                $tables[] = ['name' => $sheet->getName(), 'rows' => $rows];
                if ($taken === null && ($wanted === null ? $rows > 0 : $sheet->getName() === $wanted)) {
                    $taken = $sheet->getName();
                    rename("$folder/sheet.csv", "$folder/rows.csv");
                }
            }
            $reader->close();
        } catch (Refused $e) {
            throw $e;
        } catch (\Throwable) {
            throw Refused::because('sheet_unreadable', 'file', $name, ['file' => $name]);
        }
        @unlink("$folder/sheet.csv");
        if ($taken === null) {
            throw Refused::because('intake_empty', 'file');
        }

        return ['tables' => $tables, 'table' => $taken];
    }

    /** @throws Refused for what grows out of all proportion when it is unpacked */
    private static function isOds(string $path, string $name): bool
    {
        $zip = new \ZipArchive;
        if ($zip->open($path, \ZipArchive::RDONLY) !== true) {
            throw Refused::because('sheet_unreadable', 'file', $name, ['file' => $name]);
        }
        $isOds = $zip->locateName('content.xml') !== false;
        $unpacked = 0;
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $unpacked += (int) ($zip->statIndex($i)['size'] ?? 0);
        }
        $zip->close();
        if ($unpacked > 2_000_000_000 || ($unpacked > 100_000_000 && $unpacked > 250 * (int) filesize($path))) {
            throw Refused::because('intake_zip_bomb', 'file', null, ['name' => $name]);
        }

        return $isOds;
    }

    private static function cell(mixed $cell): string
    {
        if ($cell instanceof \DateTimeInterface) {
            // Times of day are counted from the beginning of a spreadsheet's calendar.
            return (int) $cell->format('Y') < 1901
                ? $cell->format('H:i:s')
                : $cell->format($cell->format('His') === '000000' ? 'Y-m-d' : 'Y-m-d H:i:s');
        }

        return match (true) {
            $cell instanceof \DateInterval => $cell->format('%H:%I:%S'),
            is_bool($cell) => $cell ? 'yes' : 'no',
            is_float($cell) && floor($cell) === $cell && abs($cell) < 1e15 => (string) (int) $cell,
            is_scalar($cell) => (string) $cell,
            default => '',
        };
    }
}
