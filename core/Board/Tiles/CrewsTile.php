<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Pick;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;
use PinYard\Filter\Subject;

/** Where crews are, when they were last heard and what they have to send. */
final readonly class CrewsTile extends Tile
{
    /** @param  bool  $open  a coordinator opens just this to whoever has the board's link */
    private function __construct(Frame $frame, public bool $open)
    {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'crews';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        return new self($frame, $in->yes('open'));
    }

    public function tellsPeople(): bool
    {
        return ! $this->open;
    }

    public function work(): array
    {
        return ['crews'];
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $facts->crews($this);
    }

    /** @param  string  $value  number of a crew: all layers follow it */
    public function pick(string $value): ?Pick
    {
        return preg_match('/^[1-9]\d{0,9}$/D', $value) === 1
            ? Pick::of(0, ['field' => Subject::CREW, 'test' => 'one_of', 'value' => [(int) $value]])
            : null;
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return ['open' => $this->open];
    }
}
