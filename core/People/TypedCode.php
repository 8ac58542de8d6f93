<?php

declare(strict_types=1);

namespace PinYard\People;

/**
 * A code that is read off a board and typed on a phone: twelve letters and digits that are not taken for one another
 * (Crockford's Base32, https://www.crockford.com/base32.html, from memory), 60 random bits. It can be tried but a few
 * times a minute.
 */
final class TypedCode
{
    private const LETTERS = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';

    private const LENGTH = 12;

    /** @return string as it is shown, `4F7K-…` */
    public static function make(): string
    {
        $code = '';
        for ($i = 0; $i < self::LENGTH; $i++) {
            $code .= self::LETTERS[random_int(0, 31)];
        }

        return implode('-', str_split($code, 4));
    }

    /**
     * @param  string  $typed  small or large, with whatever between, and with letters taken for digits
     * @return string|null the letters alone; null where it is no such code
     */
    public static function read(string $typed): ?string
    {
        $plain = preg_replace('/[\s\x{2010}-\x{2015}_.-]+/u', '', $typed) ?? '';
        $code = strtr(strtoupper($plain), ['O' => '0', 'I' => '1', 'L' => '1']);

        return strlen($code) === self::LENGTH && strspn($code, self::LETTERS) === self::LENGTH ? $code : null;
    }
}
