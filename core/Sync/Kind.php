<?php

declare(strict_types=1);

namespace PinYard\Sync;

/** What a person did with a record on a phone. */
enum Kind: string
{
    case Add = 'add';
    /** A record in a layer of visits is added by it; the same as Add there. */
    case Visit = 'visit';
    case Change = 'change';
    case Move = 'move';
    case Delete = 'delete';
    case Restore = 'restore';

    public function adds(): bool
    {
        return $this === self::Add || $this === self::Visit;
    }
}
