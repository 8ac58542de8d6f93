<?php

declare(strict_types=1);

namespace App\Models;

/** Who may see a map or board. */
enum Audience: string
{
    /** Its owner alone. */
    case Me = 'me';
    /** Some crews, groups or roles of the programme, whose names stand with it; its owner and coordinators. */
    case Some = 'some';
    /** All people of the programme. */
    case Programme = 'programme';
    /** They, and anyone with the link. */
    case Link = 'link';
}
