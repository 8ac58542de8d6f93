<?php

declare(strict_types=1);

namespace App\Export;

use App\Layers\PlaceColumns;
use App\Models\Export;
use OpenSpout\Common\Entity\Style\Style;
use OpenSpout\Writer\Common\Creator\WriterEntityFactory;
use PinYard\Export\DesignSheet;
use PinYard\Export\SafeCell;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Wkt;
use stdClass;

/** Records as a workbook: the records, and the fields and choices that they are made of. */
final class WorkbookExport
{
    /** Rows of a sheet at the most, the heads among them (ECMA-376, 18.3.1.73). */
    private const MOST = 1_048_576;

    private const CELL = 32_767;

    /** @param  iterable<stdClass>  $rows */
    public static function write(Export $export, ExportColumns $columns, iterable $rows): int
    {
        $design = $export->layer->design();
        $writer = WriterEntityFactory::createXLSXWriter();
        $writer->setTempFolder($export->path().'-work');
        $writer->openToFile($export->path());
        $bold = (new Style)->setFontBold();
        $writer->getCurrentSheet()->setName('Records');
        $point = $design->geometry === GeometryKind::Point;
        $heads = [
            ...$point ? ['Latitude', 'Longitude'] : ['WKT'],
            ...array_map(SafeCell::text(...), array_column($columns->columns, 'label')),
        ];
        $writer->addRow(WriterEntityFactory::createRowFromArray($heads, $bold));
        $count = 0;
        foreach ($rows as $row) {
            if ($count > 0 && $count % (self::MOST - 1) === 0) {
                $writer->addNewSheetAndMakeItCurrent()->setName('Records '.(intdiv($count, self::MOST - 1) + 1));
                $writer->addRow(WriterEntityFactory::createRowFromArray($heads, $bold));
            }
            $cells = $point
                ? ($row->lon === null ? ['', ''] : [(float) $row->lat, (float) $row->lon])
                : [
                    $row->lon === null ? '' : mb_substr(
                        Wkt::of(PlaceColumns::geoJson($row, $design->geometry)),
                        0,
                        self::CELL,
                    ),
                ];
            foreach ($columns->columns as $c) {
                $value = $c['value']($row);
                // Texts are written as texts; one that begins like a formula must not become one.
                $cells[] = match (true) {
                    $value === null => '',
                    is_bool($value) => $value ? 'yes' : 'no',
                    is_string($value) && $c['text'] => SafeCell::text($value),
                    default => $value,
                };
            }
            $writer->addRow(WriterEntityFactory::createRowFromArray($cells));
            RunExport::report($export, ++$count);
        }
        foreach (array_slice(DesignSheet::of([$design]), 1) as $name => $sheet) {
            if (count($sheet) > 1) {
                $writer->addNewSheetAndMakeItCurrent()->setName($name);
                foreach ($sheet as $i => $line) {
                    $writer->addRow(
                        WriterEntityFactory::createRowFromArray(
                            array_map(
                                static fn (string|int|float|null $v): string|int|float => is_string($v)
                                    ? SafeCell::text($v)
                                    : $v ?? '',
                                $line,
                            ),
                            $i === 0 ? $bold : null,
                        ),
                    );
                }
            }
        }
        $writer->close();

        return $count;
    }
}
