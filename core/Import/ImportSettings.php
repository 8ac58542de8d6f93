<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Design\FieldKind;
use PinYard\Geo\GeometryKind;
use PinYard\Problem;
use PinYard\Refused;

/** What a person decided over a table that is to be brought in. */
final readonly class ImportSettings
{
    public const MOST_COLUMNS = 200;

    /** In place of a field's key: the column of record ids. No field can be called so. */
    public const ID = '@id';

    /**
     * @param  'new'|'append'|'update'|'attach'  $mode  `attach` puts photos to records that are there
     * @param  int  $headRow  0 where the table has no heads
     * @param  list<ColumnSettings>  $columns  by their place in the table
     * @param  'pair'|'text'|'geometry'|'none'  $way  how a row says where it is
     * @param  list<int>  $placeColumns  x and y, or those whose texts make the place
     * @param  string  $system  coordinate reference system of a pair, `EPSG:4326`; of a geometry, where its file does
     *     not say
     * @param  float  $match  places found by name are taken from this likeness on, 0 to 1
     * @param  'wait'|'empty'  $unfit  whether a row with a value that does not fit waits, or lands without that value
     * @param  float  $within  metres from a photo to the record that it is put to
     * @param  GeometryKind|null  $shape  that lands, where a file mixes several; null for the most frequent
     * @param  'leave'|'clear'  $empties  what an empty cell means where records are updated: nothing, or that the value
     *     goes
     * @param  'wait'|'take'  $conflicts  what becomes of a row whose record was changed here since the preview, or
     *     whose key is not clear
     * @param  int|null  $seen  change number of the layer at the preview
     * @param  int|null  $keyColumn  whose value finds the record, where records are updated
     */
    private function __construct(
        public string $title,
        public string $mode,
        public ?int $layer,
        public string $table,
        public int $headRow,
        public \DateTimeZone $zone,
        public array $columns,
        public string $way,
        public array $placeColumns,
        public string $system,
        public bool $mend,
        public float $match,
        public string $unfit,
        public ?int $keyColumn,
        public bool $newChoices,
        public float $within,
        public ?GeometryKind $shape,
        public string $empties,
        public string $conflicts,
        public ?int $seen,
    ) {
    }

    /**
     * @param  array<mixed>  $d
     *
     * @throws Refused
     */
    public static function of(array $d): self
    {
        $problems = [];
        $title = is_string($d['title'] ?? null) ? trim($d['title']) : '';
        if ($title === '' || mb_strlen($title) > 120) {
            $problems[] = new Problem('intake_title', 'title', mb_substr($title, 0, 60));
        }
        $zone = new \DateTimeZone('UTC');
        try {
            $zone = new \DateTimeZone(is_string($d['zone'] ?? null) ? $d['zone'] : 'UTC');
        } catch (\Exception) {
            $problems[] = new Problem('zone_unknown', 'zone', is_scalar($d['zone']) ? (string) $d['zone'] : null);
        }
        $columns = [];
        foreach (is_array($d['columns'] ?? null) ? array_values($d['columns']) : [] as $i => $column) {
            $columns[] = ColumnSettings::of(is_array($column) ? $column : [], $i);
        }
        $taken = count(array_filter($columns, static fn (ColumnSettings $c): bool => $c->take));
        if ($taken > self::MOST_COLUMNS) {
            $problems[] = new Problem('too_many', 'columns', $taken, ['count' => $taken, 'most' => self::MOST_COLUMNS]);
        }
        $location = is_array($d['location'] ?? null) ? $d['location'] : [];
        $mode = in_array($d['mode'] ?? null, ['new', 'append', 'update', 'attach'], true) ? $d['mode'] : 'new';
        $way = in_array($location['way'] ?? null, ['pair', 'text', 'geometry', 'none'], true)
            ? $location['way']
            : 'none';
        $place = array_values(
            array_filter(
                is_array($location['columns'] ?? null) ? $location['columns'] : [],
                static fn (mixed $i): bool => is_int($i) && isset($columns[$i]),
            ),
        );
        if (($way === 'pair' && count($place) !== 2) || ($way === 'text' && $place === [])) {
            $problems[] = new Problem('intake_place_columns', 'location');
        }
        $system = is_string($location['system'] ?? null) ? strtoupper(trim($location['system'])) : '';
        if ($system !== '' && preg_match('/^(EPSG|ESRI|OGC):[A-Z0-9]{2,10}$/D', $system) !== 1) {
            $problems[] = new Problem('intake_system', 'location', $system);
        }
        $key = is_int($d['key_column'] ?? null) && isset($columns[$d['key_column']]) ? $d['key_column'] : null;
        if ($mode === 'update' && $key === null) {
            $problems[] = new Problem('intake_key', 'key_column');
        }
        if ($mode !== 'new' && ! is_int($d['layer'] ?? null)) {
            $problems[] = new Problem('intake_layer', 'layer');
        }
        foreach ($columns as $i => $c) {
            if ($c->take && $c->with !== null && (! isset($columns[$c->with]) || $c->with === $i)) {
                $problems[] = new Problem('intake_time_column', "columns/$i");
            }
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }

        return new self(
            title: $title,
            mode: $mode,
            layer: is_int($d['layer'] ?? null) ? $d['layer'] : null,
            table: is_string($d['table'] ?? null) ? $d['table'] : '',
            headRow: is_int($d['head_row'] ?? null) ? max(0, $d['head_row']) : 1,
            zone: $zone,
            columns: $columns,
            way: $way,
            placeColumns: $place,
            system: $system,
            mend: ($location['mend'] ?? true) !== false,
            match: is_numeric($location['match'] ?? null) ? max(0.5, min(1.0, (float) $location['match'])) : 0.85,
            unfit: ($d['unfit'] ?? 'wait') === 'empty' ? 'empty' : 'wait',
            keyColumn: $key,
            newChoices: ($d['new_choices'] ?? false) === true,
            within: is_numeric($d['within'] ?? null) ? max(1.0, min(5_000.0, (float) $d['within'])) : 25.0,
            shape: GeometryKind::tryFrom(is_string($d['shape'] ?? null) ? $d['shape'] : ''),
            empties: ($d['empties'] ?? 'leave') === 'clear' ? 'clear' : 'leave',
            conflicts: ($d['conflicts'] ?? 'wait') === 'take' ? 'take' : 'wait',
            seen: is_int($d['seen'] ?? null) ? $d['seen'] : null,
        );
    }

    /**
     * What is kept and told: what was understood, not what was sent.
     *
     * @return array<string, mixed> as {@see of()} reads it
     */
    public function toArray(): array
    {
        return [
            'title' => $this->title,
            'mode' => $this->mode,
            'layer' => $this->layer,
            'table' => $this->table,
            'head_row' => $this->headRow,
            'zone' => $this->zone->getName(),
            'columns' => array_map(static fn (ColumnSettings $c): array => $c->toArray(), $this->columns),
            'location' => [
                'way' => $this->way,
                'columns' => $this->placeColumns,
                'system' => $this->system,
                'mend' => $this->mend,
                'match' => $this->match,
            ],
            'unfit' => $this->unfit,
            'key_column' => $this->keyColumn,
            'new_choices' => $this->newChoices,
            'within' => $this->within,
            'shape' => $this->shape?->value,
            'empties' => $this->empties,
            'conflicts' => $this->conflicts,
            'seen' => $this->seen,
        ];
    }

    /** @return list<int> columns of dates whose order nobody has told yet */
    public function undecided(): array
    {
        return array_keys(
            array_filter(
                $this->columns,
                static fn (ColumnSettings $c): bool => $c->take &&
                    $c->order === null &&
                    in_array($c->kind, [FieldKind::Date, FieldKind::DateTime], true),
            ),
        );
    }

    /** Whether records are found by the id that we write out with them. */
    public function byId(): bool
    {
        return $this->keyColumn !== null && $this->columns[$this->keyColumn]->key === self::ID;
    }

    public function inMetres(): bool
    {
        return $this->system !== '' && $this->system !== 'EPSG:4326' && $this->system !== 'OGC:CRS84';
    }
}
