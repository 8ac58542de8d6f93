<?php

declare(strict_types=1);

namespace App\Models;

/** Who may see a map or board: the programme's people, or anyone with the link. */
enum Audience: string
{
    case Programme = 'programme';
    case Link = 'link';
}
