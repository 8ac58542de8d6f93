<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Board\Tiles\BreakdownTile;
use PinYard\Board\Tiles\CoverageTile;
use PinYard\Board\Tiles\CrewsTile;
use PinYard\Board\Tiles\DetailsTile;
use PinYard\Board\Tiles\FormTile;
use PinYard\Board\Tiles\LatestTile;
use PinYard\Board\Tiles\LinkTile;
use PinYard\Board\Tiles\MapTile;
use PinYard\Board\Tiles\NumberTile;
use PinYard\Board\Tiles\OutingsTile;
use PinYard\Board\Tiles\PairsTile;
use PinYard\Board\Tiles\PhotosTile;
use PinYard\Board\Tiles\PickerTile;
use PinYard\Board\Tiles\SpreadTile;
use PinYard\Board\Tiles\TableTile;
use PinYard\Board\Tiles\TargetTile;
use PinYard\Board\Tiles\TextTile;
use PinYard\Board\Tiles\TrendTile;

/** All kinds of tiles. Each has a component of the same name on the screens. */
final class TileKinds
{
    /** @var list<class-string<Tile>> */
    public const ALL = [
        NumberTile::class,
        TargetTile::class,
        BreakdownTile::class,
        TrendTile::class,
        SpreadTile::class,
        PairsTile::class,
        TableTile::class,
        LatestTile::class,
        DetailsTile::class,
        FormTile::class,
        MapTile::class,
        CoverageTile::class,
        CrewsTile::class,
        OutingsTile::class,
        PhotosTile::class,
        TextTile::class,
        LinkTile::class,
        PickerTile::class,
    ];

    /** @return class-string<Tile>|null */
    public static function named(mixed $kind): ?string
    {
        foreach (self::ALL as $class) {
            if ($class::kind() === $kind) {
                return $class;
            }
        }

        return null;
    }
}
