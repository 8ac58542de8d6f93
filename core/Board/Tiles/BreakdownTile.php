<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Bar;
use PinYard\Board\Cells;
use PinYard\Board\Facts;
use PinYard\Board\Figure;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\Line;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\Shares;
use PinYard\Board\TileInput;
use PinYard\Board\TooFewToPart;
use PinYard\Board\Totals;

/** A measure of each group: bars or a donut, perhaps parted once more by a second field. */
final readonly class BreakdownTile extends MeasuringTile
{
    /** More groups than this are never told one by one. */
    public const MOST = 100;

    private const FEW = 12;

    /**
     * @param  'bars'|'donut'  $shape
     * @param  'list'|'most'  $order  as the choice list has them, or the largest first
     * @param  int|null  $top  so many, the others together
     */
    private function __construct(
        Frame $frame,
        Reading $reading,
        Measure $measure,
        Format $format,
        public Grouping $by,
        private ?Grouping $second,
        private string $shape,
        private string $order,
        private ?int $top,
    ) {
        parent::__construct($frame, $reading, $measure, $format);
    }

    public static function kind(): string
    {
        return 'breakdown';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $measure = $in->measure($reading->layer);
        $by = $in->grouping($reading->layer);
        $second = $in->value('second') === null ? null : $in->grouping($reading->layer, 'second');
        if ($second !== null && (! $second->isClosed() || $second->overlaps() || $by->areas !== null)) {
            throw $in->refused(
                'grouping_second',
                'second',
                $second->key,
                ['field' => $second->field->label ?? $second->key],
            );
        }
        $shape = $in->word('shape', ['bars', 'donut']);
        if (($shape === 'donut' || $second !== null) && (! $measure->kind->adds() || $by->overlaps())) {
            throw $in->refused('breakdown_whole', $second === null ? 'shape' : 'second');
        }

        return new self(
            $frame,
            $reading,
            $measure,
            Format::read($in, $measure),
            $by,
            $second,
            $shape,
            $in->word('order', ['list', 'most']),
            $in->whole('top', 1, self::MOST, null),
        );
    }

    protected function groupings(): array
    {
        return $this->second === null ? [$this->by] : [$this->by, $this->second];
    }

    public function tellsFigures(): bool
    {
        return true;
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        $figures = $facts->figures();
        $groups = $figures->by($this->reading, [$this->measure], $this->by);
        $all = Totals::of($groups, 0, $this->measure, $this->by->overlaps())
            ?? $figures->of($this->reading, [$this->measure])[0];
        $found = [];
        foreach ($groups as $group) {
            $found[$group->keys[0] ?? ''] = $group;
        }
        $lines = $facts->lines(
            $this->reading->layer,
            $this->by,
            array_map(static fn (Group $g): ?string => $g->keys[0], $groups),
        );
        $rows = [];
        foreach ($lines as $line) {
            $figure = ($found[$line->code ?? ''] ?? null)?->figures[0];
            if ($figure !== null || $line->code !== null) {
                $held = $figure->held ?? false;
                $value = $this->format->number($figure?->number() ?? ($this->adds() && ! $held ? 0.0 : null));
                $rows[] = new Bar($line, $value, $figure->n ?? 0, held: $held);
            }
        }
        [$rows, $others] = $this->cut($this->inOrder($rows));
        $bars = $this->withShares($others === null ? $rows : [...$rows, $others], $all);
        $unparted = false;
        try {
            $cells = $this->second === null ? null : $this->cells($this->second, $facts);
        } catch (TooFewToPart) {
            [$cells, $unparted] = [null, true];
        }

        return [
            'step' => $this->by->step?->value,
            'shape' => $this->shape,
            'rows' => array_map(
                static fn (Bar $b): array => $b->toArray($cells),
                $others === null ? $bars : array_slice($bars, 0, -1),
            ),
            'others' => $others === null ? null : $bars[count($bars) - 1]->asOthers(),
            'lines' => $cells === null
                ? []
                : array_map(static fn (Line $l): array => $l->toArray(), $cells->lines),
            'total' => $this->format->of($all->value),
            'n' => $all->n,
            'missing' => $all->n - $all->known,
            'least' => $figures->least() > 1 ? $figures->least() : null,
            'held' => $all->held,
            'unparted' => $unparted,
            'overlaps' => $this->by->overlaps(),
            'counts' => $this->measure->kind === MeasureKind::Count,
        ] + $this->format->said();
    }

    private function adds(): bool
    {
        return $this->measure->kind->adds();
    }

    /**
     * @param  list<Bar>  $rows
     * @return list<Bar> what has no value of the field comes last
     */
    private function inOrder(array $rows): array
    {
        if ($this->order === 'most' || (! $this->by->isClosed() && ! $this->by->isTime())) {
            // What is held back has no value, and comes last in the order of the names.
            usort($rows, static fn (Bar $a, Bar $b): int => [$a->line->code === null, $a->held, $b->value] <=> [
                $b->line->code === null,
                $b->held,
                $a->value,
            ]);
        }

        return $rows;
    }

    /**
     * @param  list<Bar>  $rows
     * @return array{list<Bar>, Bar|null} those that are told one by one, and the others together
     */
    private function cut(array $rows): array
    {
        $most = $this->top ?? ($this->by->isClosed() || $this->by->isTime() ? self::MOST : self::FEW);
        $named = array_values(
            array_filter($rows, static fn (Bar $b): bool => $b->line->code !== null && ! $b->held),
        );
        if (count($named) <= $most) {
            return [$rows, null];
        }
        // Those without a value, or of too few, stay what they are and are not among the others.
        $without = array_values(array_filter($rows, static fn (Bar $b): bool => $b->line->code === null || $b->held));

        return [
            [...array_slice($named, 0, $most), ...$without],
            Bar::together(array_slice($named, $most), $this->adds()),
        ];
    }

    /**
     * @param  list<Bar>  $bars
     * @return list<Bar>
     */
    private function withShares(array $bars, Figure $all): array
    {
        $n = $all->n;
        if (array_filter($bars, static fn (Bar $b): bool => $b->held) !== []) {
            $whole = $this->format->number($all->number());

            return array_map(
                fn (Bar $b): Bar => $b->withShare(
                    $this->adds() && $b->value !== null && $whole > 0 ? (int) round(($b->value / $whole) * 100) : null,
                ),
                $bars,
            );
        }
        if (! $this->adds() || ($this->by->overlaps() && $this->measure->kind !== MeasureKind::Count)) {
            return $bars;
        }
        // One record can be in several of overlapping groups: these do not add up, and are not made to.
        $shares = $this->by->overlaps()
            ? array_map(static fn (Bar $b): ?int => $n > 0 ? (int) round(($b->n / $n) * 100) : null, $bars)
            : Shares::of(array_map(static fn (Bar $b): float => $b->value ?? 0.0, $bars));

        return array_map(static fn (Bar $b, ?int $share): Bar => $b->withShare($share), $bars, $shares);
    }

    /** What each row is made of by the second field. */
    private function cells(Grouping $second, Facts $facts): Cells
    {
        $values = [];
        $codes = [];
        foreach ($facts->figures()->by($this->reading, [$this->measure], $this->by, $second) as $group) {
            $value = $this->format->number($group->figures[0]->number());
            $values[$group->keys[0] ?? ''][$group->keys[1] ?? ''] = $value ?? 0.0;
            $codes[$group->keys[1] ?? ''] = $group->keys[1];
        }
        $lines = $facts->lines($this->reading->layer, $second, array_values($codes));

        return new Cells(
            array_values(array_filter($lines, static fn (Line $l): bool => array_key_exists($l->code ?? '', $codes))),
            $values,
        );
    }

    public function pick(string $value): ?Pick
    {
        return Pick::group($this->reading->layer, $this->by, $value);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return parent::body() + [
            'by' => $this->by->toArray(),
            'second' => $this->second?->toArray(),
            'shape' => $this->shape,
            'order' => $this->order,
            'top' => $this->top,
        ];
    }
}
