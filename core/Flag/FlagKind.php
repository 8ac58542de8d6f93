<?php

declare(strict_types=1);

namespace PinYard\Flag;

/** Why a record should be looked at again. */
enum FlagKind: string
{
    /** It lies outside the area of interest, or in none of the areas that it should lie in. */
    case Outside = 'outside';

    /** Its fix is poorer than the layer wants. */
    case Fix = 'fix';

    /** Another record was collected close by, in space and time. */
    case Double = 'double';

    /** A number lies far from the others. */
    case Outlier = 'outlier';

    /** Files that the design asks for are not there. */
    case Files = 'files';

    /** Nobody travels so fast from the record before. */
    case Speed = 'speed';

    /** It speaks of a day that had not come. */
    case Future = 'future';
}
