<?php

declare(strict_types=1);

namespace PinYard\Design;

/** A field's key made from its label. */
final class KeyText
{
    private const TAKEN = ['id', 'lon', 'lat', 'collected_at', 'author', 'version', 'photos', 'true', 'false', 'null', 'and', 'or', 'not', 'in', 'xor', 'contains', 'matches'];

    /** @param  list<string>  $taken  keys that other fields have */
    public static function of(string $label, array $taken): string
    {
        $plain = transliterator_transliterate('Any-Latin; Latin-ASCII; Lower', $label);
        $plain = substr(trim((string) preg_replace('/[^a-z0-9]+/', '_', is_string($plain) ? $plain : ''), '_'), 0, 36);
        $plain = preg_match('/^[a-z]/', $plain) === 1 ? $plain : rtrim("field_$plain", '_');
        $key = $plain;
        for ($n = 2; in_array($key, $taken, true) || in_array($key, self::TAKEN, true); $n++) {
            $key = "{$plain}_$n";
        }

        return $key;
    }
}
