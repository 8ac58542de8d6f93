<?php

declare(strict_types=1);

namespace App\Maps;

use App\Records\VisibleRecords;
use Illuminate\Support\Facades\DB;
use PDO;
use PinYard\Design\Field;
use PinYard\Geo\AreaCells;
use PinYard\Geo\PointInArea;

/** Walks the records of a layer in the order of their places, and tells in which areas each lies. */
final readonly class CountedRecords
{
    /** Beyond the edge of the Mercator square the Z-order says nothing. */
    private const POLAR = 85.0;

    /** @param  Field|null  $field  whose value is told with each */
    public function __construct(private VisibleRecords $records, private ?Field $field)
    {
    }

    /**
     * @param  list<list<list<array{float, float}>>>  $rings  of each area
     * @param  \Closure(int, float|null): void  $found  called with each area (its place in the list) of each record
     */
    public function perArea(array $rings, \Closure $found): void
    {
        if ($rings === []) {
            return;
        }
        $cells = new AreaCells($rings);
        $field = $this->field !== null && $this->records->shows($this->field->key) ? $this->field->column() : 'null';
        $query = $this->records->rows()->selectRaw("z, lon, lat, $field as value")->orderBy('z');
        // A million rows are not held at once.
        $pdo = DB::connection()->getPdo();
        $pdo->setAttribute(PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, false);
        try {
            $statement = $pdo->prepare($query->toSql());
            $statement->execute(DB::connection()->prepareBindings($query->getBindings()));
            while (($row = $statement->fetch(PDO::FETCH_NUM)) !== false) {
                [$lon, $lat] = [(float) $row[1], (float) $row[2]];
                $value = $row[3] === null ? null : (float) $row[3];
                $areas = abs($lat) < self::POLAR
                    ? $cells->allAt((int) $row[0], $lon, $lat)
                    : self::polar($rings, $lon, $lat);
                foreach ($areas as $area) {
                    $found($area, $value);
                }
            }
            $statement->closeCursor();
        } finally {
            $pdo->setAttribute(PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, true);
        }
    }

    /**
     * @param  list<list<list<array{float, float}>>>  $rings
     * @return list<int>
     */
    private static function polar(array $rings, float $lon, float $lat): array
    {
        return array_keys(
            array_filter($rings, static fn (array $one): bool => PointInArea::of($one, $lon, $lat)),
        );
    }
}
