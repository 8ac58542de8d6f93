<?php

declare(strict_types=1);

namespace PinYard\People;

/**
 * One-time passwords of an authenticator app: TOTP (RFC 6238) over HOTP (RFC 4226), HMAC-SHA-1, steps of 30 seconds,
 * as every such app knows them. A secret is told in Base32 (RFC 4648, section 6, without padding).
 */
final class Totp
{
    public const STEP = 30;

    private const DIGITS = 6;

    /** Steps by which a phone's clock may be off, either way (RFC 6238, section 5.2, recommends one). */
    private const OFF = 1;

    private const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';

    /** @return string 160 bits in Base32, as RFC 4226 (section 4, R6) recommends */
    public static function secret(): string
    {
        return self::base32(random_bytes(20));
    }

    /**
     * @param  string  $secret  bytes
     * @param  int  $step  since 1970
     */
    public static function code(string $secret, int $step, int $digits = self::DIGITS): string
    {
        $hash = hash_hmac('sha1', pack('J', $step), $secret, true);
        $at = ord($hash[19]) & 15;
        /** @var array{1: int} $number */
        $number = unpack('N', substr($hash, $at, 4));

        return str_pad((string) (($number[1] & 0x7FFFFFFF) % 10 ** $digits), $digits, '0', STR_PAD_LEFT);
    }

    /**
     * @param  string  $secret  in Base32
     * @param  int  $now  seconds since 1970
     * @param  int  $last  step of the last one that was taken: each goes once (RFC 6238, section 5.2)
     * @return int|null step of the code; null where it is none of now
     */
    public static function stepOf(string $secret, string $code, int $now, int $last): ?int
    {
        $code = preg_replace('/\s+/u', '', $code) ?? '';
        $bytes = self::bytes($secret);
        $at = intdiv($now, self::STEP);
        $found = null;
        for ($step = $at - self::OFF; $step <= $at + self::OFF; $step++) {
            // All of them are compared, so that time does not tell which one it was.
            if (hash_equals(self::code($bytes, $step), $code) && $step > $last) {
                $found = $step;
            }
        }

        return $found;
    }

    /** What an authenticator app reads from a QR code (the key URI format; common practice, no standard). */
    public static function address(string $secret, string $account, string $issuer): string
    {
        return sprintf(
            'otpauth://totp/%s:%s?secret=%s&issuer=%s&algorithm=SHA1&digits=%d&period=%d',
            rawurlencode($issuer),
            rawurlencode($account),
            $secret,
            rawurlencode($issuer),
            self::DIGITS,
            self::STEP,
        );
    }

    public static function base32(string $bytes): string
    {
        $text = '';
        $bits = $held = 0;
        foreach (str_split($bytes) as $byte) {
            $bits = ($bits << 8 | ord($byte)) & 0xFFFF;
            for ($held += 8; $held >= 5; $held -= 5) {
                $text .= self::LETTERS[$bits >> ($held - 5) & 31];
            }
        }

        return $held === 0 ? $text : $text.self::LETTERS[$bits << (5 - $held) & 31];
    }

    private static function bytes(string $text): string
    {
        $bytes = '';
        $bits = $held = 0;
        foreach (str_split(rtrim(strtoupper($text), '=')) as $letter) {
            $bits = ($bits << 5 | (int) strpos(self::LETTERS, $letter)) & 0xFFFF;
            $held += 5;
            if ($held >= 8) {
                $held -= 8;
                $bytes .= chr($bits >> $held & 255);
            }
        }

        return $bytes;
    }
}
