<?php

declare(strict_types=1);

namespace PinYard\Board;

/** What the answers of tiles are made of, for one viewer, at one moment. */
interface Facts
{
    public function figures(): Figures;

    /** Today, by the programme's calendar. */
    public function today(): string;

    /**
     * What the groups of a grouping are called and how they are drawn.
     *
     * @param  list<string|null>  $codes  those that were found
     * @return list<Line> in their own order: also those that were not found, where the design names them
     */
    public function lines(int $layer, Grouping $by, array $codes): array;

    /**
     * The latest records.
     *
     * @return array<string, mixed>
     */
    public function latest(Tiles\LatestTile $tile): array;

    /** @return array<string, mixed> */
    public function details(Tiles\DetailsTile $tile): array;

    /** @return array<string, mixed> */
    public function form(Tiles\FormTile $tile): array;

    /** @return array<string, mixed> */
    public function map(Tiles\MapTile $tile): array;

    /** @return array<string, mixed> */
    public function coverage(Tiles\CoverageTile $tile): array;

    /** @return array<string, mixed> */
    public function crews(Tiles\CrewsTile $tile): array;

    /** @return array<string, mixed> */
    public function outings(Tiles\OutingsTile $tile): array;

    /** @return array<string, mixed> */
    public function photos(Tiles\PhotosTile $tile): array;
}
