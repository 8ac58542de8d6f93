<?php

declare(strict_types=1);

namespace PinYard\Audience;

/** How much of a record's place somebody may see. */
enum Sharpness: string
{
    case Exact = 'exact';

    /** The cell that it lies in, and nowhere in it that means something ({@see Blur}); cells that a shape touches. */
    case Cell = 'cell';

    /** The area of a layer of areas that it lies in, and nowhere in it that means something. */
    case Area = 'area';

    /** No place at all: not the coordinates, and nothing that was worked out of them. */
    case None = 'none';
}
