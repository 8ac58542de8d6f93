<?php

declare(strict_types=1);

namespace App\Rights;

use PinYard\Refused;

/**
 * An id of 16 bytes as another of 16 bytes that tells nothing: one block of AES-256 (FIPS 197), which is a permutation,
 * under a key made of the application's own and the name of the thing (HKDF, RFC 5869). So it leads back without a
 * table.
 */
final class OpaqueId
{
    /**
     * @param  string  $id  16 bytes
     * @param  string  $within  name of the thing behind whose link it is told
     * @return string 22 letters, digits, - and _
     */
    public static function of(string $id, string $within): string
    {
        $block = openssl_encrypt($id, 'aes-256-ecb', self::key($within), OPENSSL_RAW_DATA | OPENSSL_ZERO_PADDING);

        return rtrim(strtr(base64_encode((string) $block), '+/', '-_'), '=');
    }

    /**
     * @return string 16 bytes; of an id that was never told, some that no record has
     *
     * @throws Refused
     */
    public static function read(string $text, string $within): string
    {
        $block =
            preg_match('/^[A-Za-z0-9_-]{22}$/D', $text) === 1 ? base64_decode(strtr($text, '-_', '+/'), true) : false;
        $id =
            $block === false || strlen($block) !== 16
                ? false
                : openssl_decrypt($block, 'aes-256-ecb', self::key($within), OPENSSL_RAW_DATA | OPENSSL_ZERO_PADDING);

        return $id === false ? throw Refused::because('record_unknown', 'record') : $id;
    }

    private static function key(string $within): string
    {
        static $keys = [];

        return $keys[$within] ??= hash_hkdf('sha256', (string) config('app.key'), 32, "ids of $within");
    }
}
