<?php

declare(strict_types=1);

namespace PinYard\Sync;

/** What became of an operation. Merged, clash and held come with changes to existing records. */
enum Outcome: string
{
    case Applied = 'applied';
    case Refused = 'refused';
}
