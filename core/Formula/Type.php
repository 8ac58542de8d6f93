<?php

declare(strict_types=1);

namespace PinYard\Formula;

/** What a formula, or a part of one, gives. A missing value belongs to every type. */
enum Type: string
{
    case Number = 'number';
    case Text = 'text';
    case YesNo = 'yes_no';
    case Date = 'date';
    case Time = 'time';
    case Instant = 'instant';
    /** The code of one choice; may be used wherever a text may. */
    case Choice = 'choice';
    case Choices = 'choices';
    /** The type of the word `null`. */
    case Missing = 'missing';

    /** Whether a value of this type may stand where another is asked for. */
    public function fits(self $asked): bool
    {
        return $this === $asked || $this === self::Missing || $this === self::Choice && $asked === self::Text;
    }

    /** The common type of two branches, or null where there is none. */
    public static function common(self $a, self $b): ?self
    {
        return match (true) {
            $a->fits($b) => $a === self::Missing || $b === self::Text ? $b : $a,
            $b->fits($a) => $a,
            default => null,
        };
    }
}
