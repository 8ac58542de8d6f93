<?php

declare(strict_types=1);

namespace PinYard\Import;

/**
 * A place or an address as people write it, made comparable: small letters without accents, usual abbreviations written
 * out, parts by commas.
 */
final readonly class PlaceName
{
    private const WORDS = [
        'st' => 'street',
        'str' => 'street',
        'strasse' => 'street',
        'rd' => 'road',
        'ave' => 'avenue',
        'av' => 'avenue',
        'blvd' => 'boulevard',
        'dr' => 'drive',
        'ln' => 'lane',
        'sq' => 'square',
        'hwy' => 'highway',
        'n' => 'north',
        's' => 'south',
        'e' => 'east',
        'w' => 'west',
        'mt' => 'mount',
        'pt' => 'point',
        'is' => 'island',
        'isl' => 'island',
        'ft' => 'fort',
        'hbr' => 'harbour',
        'harbor' => 'harbour',
        'center' => 'centre',
        'ste' => 'saint',
        'bch' => 'beach',
        'nr' => 'near',
    ];

    /**
     * @param  string  $name  the first part
     * @param  list<string>  $context  the other parts: the town of a street, the country of a town
     */
    private function __construct(public string $name, public array $context)
    {
    }

    public static function of(string $text): self
    {
        $parts = array_values(
            array_filter(array_map(self::plain(...), explode(',', $text)), static fn (string $p): bool => $p !== ''),
        );

        return new self($parts[0] ?? '', array_slice($parts, 1));
    }

    public static function plain(string $text): string
    {
        // Made once: making it takes forty times as long as using it.
        static $letters = null;
        $letters ??= \Transliterator::create('Any-Latin; Latin-ASCII; Lower');
        $plain = $letters instanceof \Transliterator ? $letters->transliterate(strtr($text, ['ß' => 'ss'])) : false;
        $words = preg_split(
            '/[^a-z0-9]+/',
            is_string($plain) ? str_replace("'", '', $plain) : '',
            -1,
            PREG_SPLIT_NO_EMPTY,
        );
        $out = [];
        foreach (is_array($words) ? $words : [] as $i => $word) {
            // Before a name "St" is a saint, behind it a street.
            $out[] = $word === 'st' && $i === 0 ? 'saint' : self::WORDS[$word] ?? $word;
        }

        return implode(' ', $out);
    }

    /**
     * How alike two names are, 0 to 1: the same; the same words in another order; spelt nearly the same.
     *
     * @param  string  $known  a plain name
     */
    public function likeness(string $known): float
    {
        if ($this->name === '' || $known === '') {
            return 0.0;
        }
        if ($this->name === $known) {
            return 1.0;
        }
        [$a, $b] = [explode(' ', $this->name), explode(' ', $known)];
        sort($a);
        sort($b);
        if ($a === $b) {
            return 0.97;
        }
        [$ta, $tb] = [implode(' ', $a), implode(' ', $b)];
        // Levenshtein 1966, over letters, of the names as they stand and with their words in order.
        $spelt =
            1 -
            min(
                levenshtein(substr($this->name, 0, 100), substr($known, 0, 100)),
                levenshtein(substr($ta, 0, 100), substr($tb, 0, 100)),
            ) /
                max(strlen($this->name), strlen($known));
        $common = count(array_intersect($a, $b));
        // One that holds all words of the other: "Port Maria" and "Port Maria Harbour".
        $within = $common === min(count($a), count($b)) ? 0.7 + (0.2 * $common) / max(count($a), count($b)) : 0.0;

        return min(0.96, max($spelt, $within));
    }
}
