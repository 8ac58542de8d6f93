<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PDO;
use PinYard\Design\Field;
use PinYard\Filter\Filter;
use PinYard\Geo\AreaCells;
use PinYard\Geo\Box;
use PinYard\Geo\PointInArea;

/** The records that areas are coloured by: where each lies, its value, and whether it is in the slice of a share. */
final readonly class CountedRecords
{
    /** Beyond the edge of the Mercator square the Z-order says nothing. */
    public const POLAR = 85.0;

    private string $value;

    /**
     * @param  VisibleRecords  $records  as one viewer may see them, in the slice that is counted, showing the field
     * @param  Field|null  $field  whose value is measured
     * @param  Filter|null  $share  the slice whose share is told
     */
    public function __construct(private VisibleRecords $records, ?Field $field, private ?Filter $share)
    {
        $this->value = $field !== null && $records->shows($field->key) ? $field->column() : 'null';
    }

    /**
     * All of them, in the order of their places.
     *
     * @param  list<list<list<array{float, float}>>>  $rings  of each area
     * @param  \Closure(string, int, float|null, bool): void  $found  called with each record (16 bytes) and each area
     *     that it lies in, by its place in the list
     * @param  Box|null  $box  only those in it
     */
    public function perArea(array $rings, \Closure $found, ?Box $box = null): void
    {
        $this->perCell(new AreaCells($rings), $rings, $found, $box);
    }

    /**
     * @param  list<list<list<array{float, float}>>>  $rings  what the cells are made of
     * @param  \Closure(string, int, float|null, bool): void  $found
     */
    public function perCell(AreaCells $cells, array $rings, \Closure $found, ?Box $box = null): void
    {
        if ($rings === []) {
            return;
        }
        $in = $this->share === null ? [] : $this->inShare();
        // A million rows are not held at once.
        $pdo = DB::connection()->getPdo();
        $pdo->setAttribute(PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, false);
        $statement = null;
        try {
            $rows = $this->records->rows();
            $query = $this->select($box === null ? $rows : $this->records->within($rows, $box))->orderBy('z');
            $statement = $pdo->prepare($query->toSql());
            DB::connection()->bindValues($statement, DB::connection()->prepareBindings($query->getBindings()));
            $statement->execute();
            while (($row = $statement->fetch(PDO::FETCH_NUM)) !== false) {
                [$id, $z, $lon, $lat] = [(string) $row[0], (int) $row[1], (float) $row[2], (float) $row[3]];
                $areas = abs($lat) < self::POLAR ? $cells->allAt($z, $lon, $lat) : self::polar($rings, $lon, $lat);
                foreach ($areas as $area) {
                    $found($id, $area, $row[4] === null ? null : (float) $row[4], isset($in[$id]));
                }
            }
        } finally {
            // Whatever became of it, the connection can ask for something else.
            if ($statement instanceof \PDOStatement) {
                $statement->closeCursor();
            }
            $pdo->setAttribute(PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, true);
        }
    }

    /**
     * Those that have changed after a change number.
     *
     * @return iterable<array{string, int, float, float, float|null, bool, int}> id, Z-order number, longitude,
     *     latitude, value, whether it is in the share, change number
     */
    public function since(int $number): iterable
    {
        $in = $this->share === null ? [] : $this->inShare($number);
        $changed = $this->records->rows()->where('change_number', '>', $number);
        $query = $this->select($changed)->addSelect('change_number');
        $statement = DB::connection()->getPdo()->prepare($query->toSql());
        DB::connection()->bindValues($statement, DB::connection()->prepareBindings($query->getBindings()));
        $statement->execute();
        while (($row = $statement->fetch(PDO::FETCH_NUM)) !== false) {
            yield [
                (string) $row[0],
                (int) $row[1],
                (float) $row[2],
                (float) $row[3],
                $row[4] === null ? null : (float) $row[4],
                isset($in[$row[0]]),
                (int) $row[5],
            ];
        }
    }

    private function select(Builder $rows): Builder
    {
        return $rows->selectRaw("id, z, lon, lat, $this->value as value");
    }

    /** @return array<string, true> by record */
    private function inShare(int $since = 0): array
    {
        $rows = $this->share === null ? $this->records->rows() : $this->records->filtered($this->share)->rows();

        return array_fill_keys(
            $rows
                ->when($since > 0, static fn (Builder $q) => $q->where('change_number', '>', $since))
                ->pluck('id')
                ->all(),
            true,
        );
    }

    /**
     * @param  list<list<list<array{float, float}>>>  $rings
     * @return list<int>
     */
    public static function polar(array $rings, float $lon, float $lat): array
    {
        return array_keys(
            array_filter($rings, static fn (array $one): bool => PointInArea::of($one, $lon, $lat)),
        );
    }
}
