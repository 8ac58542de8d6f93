<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\TileInput;

/** Two measures of each group, as points: one across, one up. */
final readonly class PairsTile extends MeasuringTile
{
    private const MOST = 200;

    private function __construct(
        Frame $frame,
        Reading $reading,
        Measure $measure,
        Format $format,
        private Measure $up,
        private Grouping $by,
    ) {
        parent::__construct($frame, $reading, $measure, $format);
    }

    public static function kind(): string
    {
        return 'pairs';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $measure = $in->measure($reading->layer);

        return new self(
            $frame,
            $reading,
            $measure,
            Format::read($in, $measure),
            $in->measure($reading->layer, 'up'),
            $in->grouping($reading->layer),
        );
    }

    protected function groupings(): array
    {
        return [$this->by];
    }

    public function tellsPeople(): bool
    {
        return parent::tellsPeople() || $this->up->tellsPeople();
    }

    public function tellsPersons(): bool
    {
        return $this->tellsPeople();
    }

    /** @return list<int> */
    public function slices(): array
    {
        return [...parent::slices(), ...$this->up->slices()];
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        $groups = $facts->figures()->by($this->reading, [$this->measure, $this->up], $this->by);
        $found = [];
        $n = 0;
        foreach ($groups as $group) {
            $found[$group->keys[0] ?? ''] = $group;
            $n += $group->figures[0]->n;
        }
        $points = [];
        $without = 0;
        $codes = array_map(static fn (Group $g): ?string => $g->keys[0], $groups);
        foreach ($facts->lines($this->reading->layer, $this->by, $codes) as $line) {
            $group = $found[$line->code ?? ''] ?? null;
            $x = $this->format->number($group?->figures[0]->number());
            $y = $group?->figures[1]->number();
            if ($group === null) {
                continue;
            }
            if ($x === null || $y === null) {
                $without++;
            } else {
                $points[] = $line->toArray() + ['x' => $x, 'y' => $y, 'n' => $group->figures[0]->n];
            }
        }

        return [
            'step' => $this->by->step?->value,
            'points' => array_slice($points, 0, self::MOST),
            'without' => $without,
            'n' => $n,
            'across' => ['measure' => $this->measure->told()] + $this->format->said(),
            'up' => [
                'measure' => $this->up->told(),
                'unit' => $this->up->unit(),
                'decimals' => $this->up->decimals(),
            ],
        ];
    }

    public function pick(string $value): ?Pick
    {
        return Pick::group($this->reading->layer, $this->by, $value);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return parent::body() + ['up' => $this->up->toArray(), 'by' => $this->by->toArray()];
    }
}
