<?php

declare(strict_types=1);

namespace App\Export;

use App\Import\SheetRows;
use App\Processes\LimitedProcess;
use App\Processes\OwnCommand;
use OpenSpout\Common\Entity\Style\Style;
use OpenSpout\Reader\Common\Creator\ReaderEntityFactory;
use OpenSpout\Reader\CSV\Reader as CsvReader;
use OpenSpout\Reader\ODS\Reader as OdsReader;
use OpenSpout\Reader\XLSX\Reader as XlsxReader;
use OpenSpout\Writer\Common\Creator\WriterEntityFactory;
use PinYard\Refused;

/** Spreadsheets as rows of texts, in and out (XLSX, ODS, CSV). */
final class Spreadsheets
{
    private const MOST_SHEETS = 30;

    private const MOST_ROWS = 20_000;

    private const MOST_CELLS = 1_000_000;

    /**
     * @return array<string, list<list<string>>> rows by name of the sheet
     *
     * @throws Refused when it is none, or too much
     */
    public static function read(string $file, string $name): array
    {
        /** @var array<string, list<list<string>>> $sheets */
        $sheets = SheetRows::answer(
            LimitedProcess::artisan(60, 256)->run(
                OwnCommand::words(['sheet:read', $file, $name], ['memory_limit=256M']),
            ),
            $name,
        );

        return $sheets;
    }

    /**
     * The same in this process, which somebody else watches over.
     *
     * @return array<string, list<list<string>>>
     *
     * @throws Refused
     */
    public static function readHere(string $file, string $name): array
    {
        $reader = self::reader(
            (string) file_get_contents($file, length: 8),
            strtolower(pathinfo($name, PATHINFO_EXTENSION)),
            $file,
        );
        $sheets = [];
        $all = 0;
        try {
            // Rows keep their numbers, so that what is said of one can be found.
            $reader->setShouldPreserveEmptyRows(true);
            $reader->open($file);
            foreach ($reader->getSheetIterator() as $sheet) {
                assert($sheet !== null);
                $rows = [];
                foreach ($sheet->getRowIterator() as $row) {
                    $rows[] = $cells = array_map(self::text(...), array_values($row->toArray()));
                    if (($all += count($cells)) > self::MOST_CELLS) {
                        throw Refused::because('sheet_too_heavy', 'file', $name, ['file' => $name]);
                    }
                    if (count($rows) > self::MOST_ROWS) {
                        throw Refused::because('too_many', 'file', count($rows), [
                            'count' => count($rows),
                            'most' => self::MOST_ROWS,
                        ]);
                    }
                }
                $sheets[$reader instanceof CsvReader ? pathinfo($name, PATHINFO_FILENAME) : $sheet->getName()] = $rows;
                if (count($sheets) >= self::MOST_SHEETS) {
                    break;
                }
            }
            $reader->close();
        } catch (Refused $e) {
            throw $e;
        } catch (\Throwable) {
            throw Refused::because('sheet_unreadable', 'file', $name, ['file' => $name]);
        }

        return $sheets;
    }

    /**
     * @param  array<string, list<list<string|int|float|null>>>  $sheets  heads first
     * @return string path of a file that the caller removes
     */
    public static function write(array $sheets): string
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'sheet');
        $writer = WriterEntityFactory::createXLSXWriter();
        $writer->openToFile($file);
        $bold = (new Style)->setFontBold();
        $first = true;
        foreach ($sheets as $name => $rows) {
            $sheet = $first ? $writer->getCurrentSheet() : $writer->addNewSheetAndMakeItCurrent();
            $first = false;
            $sheet->setName($name);
            foreach ($rows as $i => $row) {
                // Formulas and conditions are texts here, never the spreadsheet's own.
                $writer->addRow(
                    WriterEntityFactory::createRowFromArray(
                        array_map(
                            static fn (string|int|float|null $v): string|int|float => is_string($v) &&
                            str_starts_with($v, '=')
                                ? " $v"
                                : $v ?? '',
                            $row,
                        ),
                        $i === 0 ? $bold : null,
                    ),
                );
            }
        }
        $writer->close();

        return $file;
    }

    private static function reader(string $head, string $extension, string $file): XlsxReader|OdsReader|CsvReader
    {
        if (str_starts_with($head, "PK\x03\x04")) {
            $reader =
                $extension === 'ods' ? ReaderEntityFactory::createODSReader() : ReaderEntityFactory::createXLSXReader();
            $reader->setShouldFormatDates(true);

            return $reader;
        }
        if (
            str_starts_with($head, "\xD0\xCF\x11\xE0") ||
            ! mb_check_encoding((string) file_get_contents($file, length: 4096), 'UTF-8')
        ) {
            // Spreadsheets of the nineties, and texts in other encodings.
            throw Refused::because('sheet_format', 'file', $extension, ['extension' => $extension]);
        }
        $reader = ReaderEntityFactory::createCSVReader();
        $line = strtok((string) file_get_contents($file, length: 8192), "\n") ?: '';
        $counts = array_map(static fn (string $by): int => substr_count($line, $by), [
            ',' => ',',
            ';' => ';',
            "\t" => "\t",
        ]);
        arsort($counts);
        $reader->setFieldDelimiter((string) array_key_first($counts));

        return $reader;
    }

    private static function text(mixed $cell): string
    {
        return match (true) {
            $cell instanceof \DateTimeInterface => $cell->format(
                $cell->format('His') === '000000' ? 'Y-m-d' : 'Y-m-d\TH:i:s\Z',
            ),
            is_bool($cell) => $cell ? 'yes' : 'no',
            is_float($cell) && floor($cell) === $cell && abs($cell) < 1e15 => (string) (int) $cell,
            is_scalar($cell) => (string) $cell,
            default => '',
        };
    }
}
