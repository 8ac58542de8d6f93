<?php

declare(strict_types=1);

namespace PinYard\Bits;

/** Something that cannot be told by bits; it is asked of the records themselves. */
final class NotByBits extends \RuntimeException
{
}
