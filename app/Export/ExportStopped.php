<?php

declare(strict_types=1);

namespace App\Export;

/** Its maker wants the file no longer. */
final class ExportStopped extends \RuntimeException
{
}
