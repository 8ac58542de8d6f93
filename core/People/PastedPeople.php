<?php

declare(strict_types=1);

namespace PinYard\People;

use PinYard\Problem;

/**
 * People out of a pasted list, one in each line, as mail programs and spreadsheets write them: `Ann Lee
 * <ann@example.org>`, `ann@example.org`, or cells parted by tabs, semicolons or commas, in whatever order.
 */
final class PastedPeople
{
    public const MOST = 200;

    private const MOST_NAME = 120;

    private const MOST_EMAIL = 190;

    /**
     * @return list<array{line: int, text: string, name: string, email: string, problem: Problem|null}> of each line
     *     that is not empty; a name that is not there is made of the address
     */
    public static function read(string $text): array
    {
        $found = [];
        $seen = [];
        foreach (preg_split('/\R/u', $text) ?: [] as $i => $line) {
            $line = trim(preg_replace('/[\p{Zs}\x{FEFF}]+/u', ' ', $line) ?? $line, " \t,;");
            if ($line === '') {
                continue;
            }
            [$name, $email] = self::line($line);
            $problem = match (true) {
                $email === null => new Problem('people_no_address', 'text', $line, ['line' => $i + 1]),
                isset($seen[$email]) => new Problem('people_twice', 'text', $email, ['line' => $i + 1]),
                default => null,
            };
            $seen[$email ?? ''] = true;
            $found[] = [
                'line' => $i + 1,
                'text' => mb_substr($line, 0, 200),
                'name' => $name === '' && $email !== null ? self::nameOf($email) : mb_substr($name, 0, self::MOST_NAME),
                'email' => $email ?? '',
                'problem' => $problem,
            ];
        }

        return $found;
    }

    /** @return array{string, string|null} name, address in small letters */
    private static function line(string $line): array
    {
        if (preg_match('/^(.*?)<\s*([^<>\s]+)\s*>$/u', $line, $parts) === 1) {
            return [trim($parts[1], " \t\"',;"), self::address($parts[2])];
        }
        $names = [];
        $email = null;
        foreach (preg_split('/[\t;,]/u', $line) ?: [] as $cell) {
            $cell = trim($cell, " \"'");
            $found = $email === null ? self::address($cell) : null;
            if ($found !== null) {
                $email = $found;
            } elseif ($cell !== '') {
                $names[] = $cell;
            }
        }
        if ($email === null && preg_match('/^(.+?)\s+(\S+@\S+)$/u', $line, $parts) === 1) {
            return [trim($parts[1], " \"'"), self::address($parts[2])];
        }

        return [implode(' ', $names), $email];
    }

    private static function address(string $text): ?string
    {
        $text = mb_strtolower(preg_replace('/^mailto:/i', '', $text) ?? $text);

        return strlen($text) <= self::MOST_EMAIL && filter_var($text, FILTER_VALIDATE_EMAIL) !== false ? $text : null;
    }

    private static function nameOf(string $email): string
    {
        return mb_convert_case(strtr(explode('@', $email)[0], '._-+', '    '), MB_CASE_TITLE);
    }
}
