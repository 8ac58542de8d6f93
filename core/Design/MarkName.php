<?php

declare(strict_types=1);

namespace PinYard\Design;

/** What the mark of a choice, or the head of a peg, may be called. */
final class MarkName
{
    public const OURS = ['diamond', 'disc', 'triangle', 'bar', 'ring', 'cross'];

    /** One of ours, or a mark of one's own (`own-` and its token); a token is not looked up, as designs travel. */
    public static function is(mixed $name): bool
    {
        return is_string($name) &&
            (in_array($name, self::OURS, true) || preg_match('/^own-[a-z0-9]{22}$/D', $name) === 1);
    }
}
