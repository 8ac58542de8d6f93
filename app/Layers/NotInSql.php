<?php

declare(strict_types=1);

namespace App\Layers;

/** A part of a formula that SQL cannot answer exactly as PHP and the phone do. */
final class NotInSql extends \LogicException
{
}
