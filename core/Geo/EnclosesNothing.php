<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Refused;

/** An outline without an inside: map files carry such slivers. */
final class EnclosesNothing extends Refused
{
}
