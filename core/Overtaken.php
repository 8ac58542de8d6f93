<?php

declare(strict_types=1);

namespace PinYard;

/** Somebody else has changed it since it was read; what was sent was made for what it is no longer. */
final class Overtaken extends Refused
{
}
