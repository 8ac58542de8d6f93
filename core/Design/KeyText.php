<?php

declare(strict_types=1);

namespace PinYard\Design;

/** A field's key made from its label. */
final class KeyText
{
    private const TAKEN = [
        'id',
        'lon',
        'lat',
        'collected_at',
        'author',
        'version',
        'photos',
        'true',
        'false',
        'null',
        'and',
        'or',
        'not',
        'in',
        'xor',
        'contains',
        'matches',
    ];

    /** @var array<string, string>|null */
    private static ?array $letters = null;

    /**
     * The same as the desk makes while one types (tests/vectors/keys.json holds both): letters of Latin, Greek and
     * Cyrillic scripts by resources/transliteration.json. What else is there, ICU turns into Latin.
     *
     * @param  list<string>  $taken  keys that other fields have
     * @param  string  $fallback  what it begins with where the label gives no letter to begin with
     */
    public static function of(string $label, array $taken, string $fallback = 'field'): string
    {
        $plain = \Normalizer::normalize(mb_strtolower($label), \Normalizer::FORM_KD);
        $plain = (string) preg_replace('/[\x{300}-\x{36f}]/u', '', is_string($plain) ? $plain : '');
        $plain = strtr($plain, self::letters());
        if (preg_match('/[^\x00-\x7f]/', $plain) === 1) {
            $latin = transliterator_transliterate('Any-Latin; Latin-ASCII; Lower', $plain);
            $plain = is_string($latin) ? $latin : $plain;
        }
        $plain = trim((string) preg_replace('/[^a-z0-9]+/', '_', $plain), '_');
        $plain = preg_match('/^[a-z]/', $plain) === 1 ? $plain : rtrim("{$fallback}_$plain", '_');
        $plain = rtrim(substr($plain, 0, 36), '_');
        $key = $plain;
        for ($n = 2; in_array($key, $taken, true) || in_array($key, self::TAKEN, true); $n++) {
            $key = "{$plain}_$n";
        }

        return $key;
    }

    /** @return array<string, string> */
    private static function letters(): array
    {
        if (self::$letters === null) {
            /** @var array<string, string> $read */
            $read = json_decode(
                (string) file_get_contents(__DIR__.'/transliteration.json'),
                true,
                flags: JSON_THROW_ON_ERROR,
            );
            self::$letters = $read;
        }

        return self::$letters;
    }
}
