<?php

declare(strict_types=1);

namespace PinYard\Import;

/**
 * Numbers as tables write them: `1234.5`, `1,234.5`, `1.234,5`, `1 234,5`, with or without a percent sign or unit left
 * out.
 */
final class NumberText
{
    private const POINT = '/^[-+]?(?:\d{1,3}(?:[, \x{00A0}\x{202F}\']\d{3})+|\d+)?(?:\.\d+)?(?:[eE][-+]?\d{1,3})?$/Du';

    private const COMMA = '/^[-+]?(?:\d{1,3}(?:[. \x{00A0}\x{202F}\']\d{3})+|\d+)?(?:,\d+)?(?:[eE][-+]?\d{1,3})?$/Du';

    /** @return int|float|null null for what is no number in this manner of writing */
    public static function read(string $text, bool $comma): int|float|null
    {
        if ($text !== '' && strspn($text, '0123456789') === strlen($text) && strlen($text) < 17) {
            return (int) $text;
        }
        // Plain decimals, the most frequent by far.
        if (is_numeric($text) && strlen($text) < 17 && strpbrk($text, "eE \t\n\r+") === false) {
            $at = strpos($text, '.');
            if ($at === false) {
                return (int) $text;
            }
            if (! $comma) {
                return (float) $text;
            }
        }
        $text = strtr(trim($text), ['−' => '-']);
        if (preg_match('/\d/', $text) !== 1 || preg_match($comma ? self::COMMA : self::POINT, $text) !== 1) {
            return null;
        }
        $plain = strtr(
            $text,
            $comma
                ? ['.' => '', ',' => '.', ' ' => '', "\u{A0}" => '', "\u{202F}" => '', "'" => '']
                : [',' => '', ' ' => '', "\u{A0}" => '', "\u{202F}" => '', "'" => ''],
        );
        if (preg_match('/^[-+]?\d{1,16}$/D', $plain) === 1) {
            return (int) $plain;
        }
        $number = (float) $plain;

        return is_finite($number) ? $number : null;
    }
}
