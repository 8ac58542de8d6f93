<?php

declare(strict_types=1);

namespace App\Models;

/** What somebody is in a programme before all; whoever is crew or guest may make maps and boards besides. */
enum Role: string
{
    /** Decides over all of it, and sees all. */
    case Coordinator = 'coordinator';

    /** Makes maps and boards of what they may see; no designs, no rights. */
    case Maker = 'maker';

    /** Goes out, and does with each layer what its design lets crews do. */
    case Crew = 'crew';

    /** Looks. */
    case Guest = 'guest';
}
