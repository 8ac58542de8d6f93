<?php

declare(strict_types=1);

namespace App\Publish;

use App\Models\Audience;
use App\Models\Programme;
use App\Models\User;
use PinYard\Refused;

/** Who opens things to everyone: whoever makes maps and boards does not decide that. */
final class Opening
{
    /**
     * @param  Audience|null  $was  of a thing that is there
     * @param  bool  $anew  whether its address is to be another
     *
     * @throws Refused
     */
    public static function allow(
        User $person,
        Programme $programme,
        Audience $wanted,
        ?Audience $was = null,
        bool $anew = false,
    ): void {
        $changes = $anew || $wanted !== ($was ?? Audience::Programme);
        if ($changes && $programme->memberFor($person)?->coordinates() !== true) {
            throw Refused::because('link_coordinators', 'audience');
        }
    }
}
