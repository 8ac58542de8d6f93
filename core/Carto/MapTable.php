<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** The table beside a map: of which layer, with which columns, in which order. */
final readonly class MapTable
{
    public const MOST_COLUMNS = 12;

    /** Columns that are no fields: what an area is coloured by; the moment of collecting. */
    public const TALLY = '@tally';

    public const COLLECTED = '@collected';

    /**
     * @param  string  $part  the layer's part of the map
     * @param  non-empty-list<string>  $columns  keys of fields, or one of the names above
     * @param  string  $sort  one of the columns
     * @param  bool  $down  the largest first
     * @param  bool  $all  whether it first tells all records, or those that the map shows
     * @param  bool  $chart  whether it first opens as a chart
     */
    private function __construct(
        public string $part,
        public array $columns,
        public string $sort,
        public bool $down,
        public bool $all,
        public bool $chart,
    ) {
    }

    /**
     * Reads `{part, columns, sort?, down?, all?, chart?}`.
     *
     * @param  bool  $tallied  whether the part's areas are coloured by records in them
     *
     * @throws Refused
     */
    public static function read(mixed $in, string $part, LayerDesign $design, bool $tallied): self
    {
        $in = is_array($in) ? $in : [];
        $given = $in['columns'] ?? null;
        if (! is_array($given) || $given === [] || ! array_is_list($given) || count($given) > self::MOST_COLUMNS) {
            throw Refused::because('table_columns', 'beside/columns', null, ['most' => self::MOST_COLUMNS]);
        }
        foreach ($given as $i => $key) {
            if (! is_string($key) || ! self::isColumn($key, $design, $tallied)) {
                throw Refused::because('table_column', "beside/columns/$i", is_scalar($key) ? $key : null);
            }
        }
        $sort = $in['sort'] ?? $given[0];
        if (! in_array($sort, $given, true)) {
            throw Refused::because('table_sort', 'beside/sort', is_scalar($sort) ? $sort : null);
        }
        $said = static function (string $yes) use ($in): bool {
            $is = $in[$yes] ?? false;

            return is_bool($is) ? $is : throw Refused::because('must_be_yes_no', "beside/$yes");
        };

        return new self(
            $part,
            array_values(array_unique($given)),
            $sort,
            $said('down'),
            $said('all'),
            $said('chart'),
        );
    }

    private static function isColumn(string $key, LayerDesign $design, bool $tallied): bool
    {
        return match ($key) {
            self::TALLY => $tallied,
            self::COLLECTED => true,
            default => $design->field($key)?->hasValue() === true,
        };
    }

    /**
     * One that is stored. Columns that have left the design are left out.
     *
     * @param  array<string, mixed>  $in
     */
    public static function stored(array $in, LayerDesign $design, bool $tallied): ?self
    {
        $columns = array_values(array_filter(
            is_array($in['columns'] ?? null) ? $in['columns'] : [],
            static fn (mixed $key): bool => is_string($key) && self::isColumn($key, $design, $tallied),
        ));

        return $columns === []
            ? null
            : self::read(
                [
                    'columns' => $columns,
                    'sort' => in_array($in['sort'] ?? null, $columns, true) ? $in['sort'] : $columns[0],
                ] + $in,
                is_string($in['part'] ?? null) ? $in['part'] : '',
                $design,
                $tallied,
            );
    }

    /** @return list<string> keys of the fields that it shows */
    public function fields(): array
    {
        return array_values(
            array_filter($this->columns, static fn (string $key): bool => ! str_starts_with($key, '@')),
        );
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'part' => $this->part,
            'columns' => $this->columns,
            'sort' => $this->sort,
            'down' => $this->down,
            'all' => $this->all,
            'chart' => $this->chart,
        ];
    }
}
