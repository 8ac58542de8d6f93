<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Measure;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** Sentences with values in them that are measured anew each time: `{1}` is the first of them. */
final readonly class TextTile extends Tile
{
    private const LONGEST = 2_000;

    private const MOST_VALUES = 12;

    /** @param  list<array{Reading, Measure, Format}>  $values */
    private function __construct(Frame $frame, private string $text, private array $values)
    {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'text';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $text = $in->text('text', self::LONGEST);
        $given = $in->value('values') ?? [];
        if (! is_array($given) || ! array_is_list($given) || count($given) > self::MOST_VALUES) {
            throw $in->refused('text_values', 'values', null, ['most' => self::MOST_VALUES]);
        }
        $values = [];
        foreach ($given as $i => $one) {
            $value = $in->inside(is_array($one) ? $one : [], "values/$i");
            $reading = $value->reading();
            $measure = $value->measure($reading->layer);
            $values[] = [$reading, $measure, Format::read($value, $measure)];
        }
        foreach (self::named($text) as $n) {
            if ($n < 1 || $n > count($values)) {
                throw $in->refused('text_value', 'text', "{{$n}}", ['n' => $n, 'count' => count($values)]);
            }
        }

        return new self($frame, $text, $values);
    }

    /** @return list<int> */
    private static function named(string $text): array
    {
        preg_match_all('/\{(\d{1,3})\}/', $text, $found);

        return array_map(intval(...), $found[1]);
    }

    /** @return list<int> */
    public function layers(): array
    {
        return array_values(array_unique(array_map(static fn (array $v): int => $v[0]->layer, $this->values)));
    }

    /** @return list<int> */
    public function slices(): array
    {
        $all = [];
        foreach ($this->values as [$reading, $measure]) {
            array_push($all, ...array_filter([$reading->slice], is_int(...)), ...$measure->slices());
        }

        return $all;
    }

    public function tellsPeople(): bool
    {
        return array_filter($this->values, static fn (array $v): bool => $v[1]->tellsPeople()) !== [];
    }

    public function tellsFigures(): bool
    {
        return true;
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        $values = [];
        foreach ($this->values as [$reading, $measure, $format]) {
            [$figure] = $facts->figures()->of($reading, [$measure]);
            $values[] = [
                'value' => $format->of($figure->value),
                'n' => $figure->n,
                'least' => $figure->held ? $facts->figures()->least() : null,
            ] + $format->said();
        }

        return ['text' => $this->text, 'values' => $values];
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'text' => $this->text,
            'values' => array_map(
                static fn (array $v): array => array_filter(
                    ['layer' => $v[0]->layer, 'slice' => $v[0]->slice, 'measure' => $v[1]->toArray()]
                        + $v[2]->toArray(),
                    static fn (mixed $x): bool => $x !== null,
                ),
                $this->values,
            ),
        ];
    }
}
