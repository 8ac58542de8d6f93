<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Figure;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;
use PinYard\Board\Totals;

/** Several measures of each group, with those of all below. */
final readonly class TableTile extends Tile
{
    private const MOST_COLUMNS = 8;

    private const MOST_ROWS = 500;

    /**
     * @param  non-empty-list<array{Measure, Format, string}>  $columns  with what each is called; '' as it says itself
     * @param  int|null  $sort  column that the rows are ordered by; null: as the list has them
     */
    private function __construct(
        Frame $frame,
        private Reading $reading,
        private Grouping $by,
        private array $columns,
        private ?int $sort,
        private bool $down,
    ) {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'table';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $given = $in->value('columns') ?? [['measure' => ['of' => 'count']]];
        if (! is_array($given) || ! array_is_list($given) || $given === [] || count($given) > self::MOST_COLUMNS) {
            throw $in->refused('table_columns', 'columns', null, ['most' => self::MOST_COLUMNS]);
        }
        $columns = [];
        foreach ($given as $i => $one) {
            $column = $in->inside(is_array($one) ? $one : [], "columns/$i");
            $measure = $column->measure($reading->layer);
            $columns[] = [$measure, Format::read($column, $measure), $column->text('title', 60)];
        }

        return new self(
            $frame,
            $reading,
            $in->grouping($reading->layer),
            $columns,
            $in->whole('sort', 0, count($columns) - 1, null),
            $in->yes('down'),
        );
    }

    /** @return list<int> */
    public function layers(): array
    {
        return [$this->reading->layer, ...$this->by->areas === null ? [] : [$this->by->areas]];
    }

    /** @return list<int> */
    public function slices(): array
    {
        $all = [$this->reading->slice];
        foreach ($this->columns as [$measure]) {
            array_push($all, ...$measure->slices());
        }

        return array_values(array_filter($all, is_int(...)));
    }

    public function tellsPeople(): bool
    {
        return $this->by->tellsPeople()
            || array_filter($this->columns, static fn (array $c): bool => $c[0]->tellsPeople()) !== [];
    }

    public function tellsFigures(): bool
    {
        return true;
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        $measures = array_column($this->columns, 0);
        $groups = $facts->figures()->by($this->reading, $measures, $this->by);
        $found = [];
        foreach ($groups as $group) {
            $found[$group->keys[0] ?? ''] = $group;
        }
        $codes = array_map(static fn (Group $g): ?string => $g->keys[0], $groups);
        $rows = [];
        foreach ($facts->lines($this->reading->layer, $this->by, $codes) as $line) {
            $group = $found[$line->code ?? ''] ?? null;
            if ($group !== null) {
                $cells = $this->cells($group->figures);
                $rows[] = [$cells[$this->sort ?? 0] ?? null, $line->toArray() + [
                    'cells' => $cells,
                    'held' => self::held($group->figures),
                    'n' => $group->figures[0]->n,
                ]];
            }
        }
        if ($this->sort !== null) {
            $sign = $this->down ? -1 : 1;
            usort($rows, static fn (array $a, array $b): int => ($a[0] === null) <=> ($b[0] === null)
                ?: $sign * ($a[0] <=> $b[0]));
        }
        $all = $this->totals($facts, $measures, $groups);

        return [
            'columns' => array_map(
                static fn (array $c): array => ['title' => $c[2], 'measure' => $c[0]->told()] + $c[1]->said(),
                $this->columns,
            ),
            'step' => $this->by->step?->value,
            'rows' => array_column(array_slice($rows, 0, self::MOST_ROWS), 1),
            'more' => max(0, count($rows) - self::MOST_ROWS),
            'totals' => $this->cells($all),
            'held' => self::held($all),
            'least' => $facts->figures()->least() > 1 ? $facts->figures()->least() : null,
            'overlaps' => $this->by->overlaps(),
            'n' => $all[0]->n,
        ];
    }

    /**
     * @param  non-empty-list<Measure>  $measures
     * @param  list<Group>  $groups
     * @return list<Figure>
     */
    private function totals(Facts $facts, array $measures, array $groups): array
    {
        $all = [];
        foreach ($measures as $i => $measure) {
            $all[] = Totals::of($groups, $i, $measure, $this->by->overlaps())
                ?? $facts->figures()->of($this->reading, [$measure])[0];
        }

        return $all;
    }

    /**
     * @param  list<Figure>  $figures
     * @return list<float|string|null>
     */
    private function cells(array $figures): array
    {
        return array_map(
            static fn (array $column, Figure $f): float|string|null => $column[1]->of($f->value),
            $this->columns,
            $figures,
        );
    }

    /**
     * @param  list<Figure>  $figures
     * @return list<int> columns that are of too few to be told
     */
    private static function held(array $figures): array
    {
        return array_keys(array_filter($figures, static fn (Figure $f): bool => $f->held));
    }

    public function pick(string $value): ?Pick
    {
        return Pick::group($this->reading->layer, $this->by, $value);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'by' => $this->by->toArray(),
            'columns' => array_map(
                static fn (array $c): array => array_filter(
                    ['measure' => $c[0]->toArray(), 'title' => $c[2]] + $c[1]->toArray(),
                    static fn (mixed $v): bool => $v !== null && $v !== '',
                ),
                $this->columns,
            ),
            'sort' => $this->sort,
            'down' => $this->down,
        ];
    }
}
