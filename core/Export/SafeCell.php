<?php

declare(strict_types=1);

namespace PinYard\Export;

/**
 * Texts in cells that no spreadsheet carries out (OWASP, CSV Injection): what begins like a formula, or with a sign
 * behind which a formula is looked for, gets an apostrophe before it. What comes in with that apostrophe loses it.
 */
final class SafeCell
{
    /** Characters with which a cell may begin a formula. */
    public const BEGINS = "=+-@\t\r\n";

    public static function text(string $text): string
    {
        return $text !== '' && strpbrk($text[0], self::BEGINS) !== false ? "'$text" : $text;
    }

    /** The apostrophe, or nothing, as an expression of SQL over one that is no null. */
    public static function sql(string $expression): string
    {
        return "if(left($expression, 1) in ('=', '+', '-', '@', '\\t', '\\r', '\\n'), '''', '')";
    }

    /** @return string what was meant, without the apostrophe that {@see text()} put before it */
    public static function back(string $text): string
    {
        return strlen($text) > 1 && $text[0] === "'" && strpbrk($text[1], self::BEGINS) !== false
            ? substr($text, 1)
            : $text;
    }
}
