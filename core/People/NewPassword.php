<?php

declare(strict_types=1);

namespace PinYard\People;

use PinYard\Problem;

/**
 * What is asked of a password that somebody chooses (OWASP ASVS 4.0.3, 2.1.1, 2.1.2, 2.1.7: long, of any characters,
 * none of the common ones).
 */
final readonly class NewPassword
{
    public const LEAST = 12;

    public const MOST = 200;

    /**
     * @param  \Closure(string): bool  $isCommon  whether a word, in small letters, is among those that everybody tries
     * @param  list<string>  $own  name and address of the person
     */
    public static function problem(string $password, \Closure $isCommon, array $own = []): ?Problem
    {
        $length = mb_strlen($password);
        if ($length < self::LEAST || $length > self::MOST) {
            return new Problem('password_length', 'password', null, ['least' => self::LEAST, 'most' => self::MOST]);
        }
        $plain = mb_strtolower(trim($password));
        // Figures and signs behind a common word, or the word twice, are tried as well.
        $bare = (string) preg_replace('/[^\p{L}]+$/u', '', $plain);
        $half = mb_substr($plain, 0, intdiv(mb_strlen($plain), 2));
        foreach ([$plain, $bare, $half.$half === $plain ? $half : $plain] as $word) {
            if (mb_strlen($word) >= 4 && $isCommon($word)) {
                return new Problem('password_common', 'password');
            }
        }
        if (count(array_unique(mb_str_split($plain))) < 4) {
            return new Problem('password_common', 'password');
        }
        foreach ($own as $one) {
            $one = mb_strtolower(trim($one));
            if (
                mb_strlen($one) >= 4 &&
                (str_contains($plain, $one) || (mb_strlen($bare) >= 4 && str_contains($one, $bare)))
            ) {
                return new Problem('password_own', 'password');
            }
        }

        return null;
    }
}
