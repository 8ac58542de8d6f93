<?php

declare(strict_types=1);

namespace PinYard\Formula;

use PinYard\Refused;

/** A part of a formula gives something else than what is wanted there. */
final class WrongType extends Refused
{
}
