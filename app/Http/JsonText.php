<?php

declare(strict_types=1);

namespace App\Http;

use PinYard\Problem;
use PinYard\Refused;
use Symfony\Component\HttpKernel\Exception\HttpException;

/** Reads JSON that came from elsewhere: measured first, so that no body, however it is made, fills the memory. */
final class JsonText
{
    public const MOST_BYTES = 32 << 20;

    /** Levels; a multi-polygon within an operation within a round has ten. */
    private const DEPTH = 32;

    /** Lists and objects; each takes some 400 bytes when it is read, however short it is written. */
    private const MOST_PARTS = 250_000;

    /** Values; a line's corner has two. */
    private const MOST_VALUES = 3_000_000;

    /**
     * @return array<mixed>
     *
     * @throws Refused where it is no JSON, or holds what cannot be told again
     */
    public static function read(string $text): array
    {
        if (
            substr_count($text, '[') + substr_count($text, '{') > self::MOST_PARTS ||
            substr_count($text, ',') > self::MOST_VALUES
        ) {
            throw new HttpException(413);
        }
        $read = json_decode($text, true, self::DEPTH);
        if (json_last_error() === JSON_ERROR_UTF16) {
            // Half of a character, cut off by a limit or left by a keyboard: the rest of the text is what counts.
            $read = json_decode(self::mended($text), true, self::DEPTH);
        }
        if (json_last_error() !== JSON_ERROR_NONE || ! is_array($read)) {
            throw Refused::because('bad_json', null, null, [
                'why' => json_last_error() === JSON_ERROR_NONE ? 'no object' : json_last_error_msg(),
            ]);
        }
        if (preg_match('/\d[eE]\+?\d{3}|\d{300}/', $text) === 1 && ($at = self::infinite($read)) !== null) {
            throw Refused::for([new Problem('number_too_large', $at)]);
        }

        return $read;
    }

    /** RFC 8259, section 8.2: an escaped surrogate without its other half is replaced by U+FFFD. */
    private static function mended(string $text): string
    {
        return (string) preg_replace_callback(
            '/\\\\(?:u[dD][89abAB][0-9a-fA-F]{2}\\\\u[dD][c-fC-F][0-9a-fA-F]{2}|u([dD][89a-fA-F][0-9a-fA-F]{2})|.)/s',
            static fn (array $m): string => isset($m[1]) ? '\\ufffd' : $m[0],
            $text,
        );
    }

    /**
     * @param  array<mixed>  $of
     * @return string|null where a number stands that is larger than any that can be kept
     */
    private static function infinite(array $of, string $at = ''): ?string
    {
        foreach ($of as $key => $value) {
            $found = is_array($value)
                ? self::infinite($value, "$at/$key")
                : (is_float($value) && ! is_finite($value)
                    ? "$at/$key"
                    : null);
            if ($found !== null) {
                return $found;
            }
        }

        return null;
    }
}
