<?php

declare(strict_types=1);

namespace PinYard\Audience;

/** Which records of a layer somebody may see. */
enum Rows: string
{
    case All = 'all';

    /** Those that they made themselves. */
    case Own = 'own';

    case None = 'none';
}
