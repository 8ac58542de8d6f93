<?php

declare(strict_types=1);

namespace PinYard\Sync;

/** What became of an operation. */
enum Outcome: string
{
    /** Done as it was meant. */
    case Applied = 'applied';
    /** Done beside what others had changed meanwhile. */
    case Merged = 'merged';
    /** Others had changed the same: what was there stays, what came is kept for a person to decide. */
    case Clash = 'clash';
    /** Right when it was captured, but not by today's design or rights: kept whole for a person to decide. */
    case Held = 'held';
    /** Malformed or never allowed: the phone keeps it, with the reason. */
    case Refused = 'refused';
}
