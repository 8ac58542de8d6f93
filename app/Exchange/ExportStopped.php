<?php

declare(strict_types=1);

namespace App\Exchange;

/** Its maker wants the file no longer. */
final class ExportStopped extends \RuntimeException
{
}
