<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Refused;

/** What is not told because it is of too few records, or would tell what is; why may be said to everybody. */
class HeldBack extends Refused
{
}
