<?php

declare(strict_types=1);

namespace PinYard\Board;

enum TileKind: string
{
    case Count = 'count';
    case Breakdown = 'breakdown';
    case Latest = 'latest';
    case Map = 'map';
}
