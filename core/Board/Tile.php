<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Refused;

/**
 * One thing on a board. Each kind is one class: what it reads, how it is checked, how it answers, what picking in it
 * means. {@see TileKinds} has them all.
 */
abstract readonly class Tile
{
    public function __construct(public Frame $frame)
    {
    }

    /** Its name in documents. */
    abstract public static function kind(): string;

    /** @throws Refused */
    abstract public static function read(TileInput $in, Frame $frame): self;

    /**
     * What it shows now; everything in it may leave to whoever the facts are for.
     *
     * @return array<string, mixed>
     *
     * @throws Refused
     */
    abstract public function answer(Facts $facts): array;

    /** @return array<string, mixed> what it is made of, as it is kept */
    abstract protected function body(): array;

    /** @return list<int> numbers of the layers that it reads; of each the viewer must see something */
    public function layers(): array
    {
        return [];
    }

    /** @return list<int> numbers of the slices that it goes by */
    public function slices(): array
    {
        return [];
    }

    /** @return list<int> numbers of the maps that it shows */
    public function maps(): array
    {
        return [];
    }

    /** Whether it tells who is at work, where and when: never behind a link, unless just that was opened. */
    public function tellsPeople(): bool
    {
        return false;
    }

    /** Whether it tells figures of many records alone, so that it can be of a layer that is told only so. */
    public function tellsFigures(): bool
    {
        return false;
    }

    /**
     * What it tells of people at work, and not of who they are: `trails`, `crews`, `outings`. Behind a link it is open
     * where that was said.
     *
     * @return list<string>
     */
    public function work(): array
    {
        return [];
    }

    /** Whether it tells who is who: that no rule opens to a link. */
    public function tellsPersons(): bool
    {
        return $this->tellsPeople() && $this->work() === [];
    }

    /**
     * What picking one of its parts means for the others; null where there is no such part.
     *
     * @param  string  $value  as the tile's answer names the part
     */
    public function pick(string $value): ?Pick
    {
        return null;
    }

    /** @return array<string, mixed> */
    final public function toArray(): array
    {
        return $this->frame->toArray() + ['kind' => static::kind()] + array_filter(
            $this->body(),
            static fn (mixed $v): bool => $v !== null && $v !== false && $v !== [],
        );
    }
}
