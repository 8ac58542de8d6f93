<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Geo\CoordinateText;
use PinYard\Refused;

/** Counts what the values of one column look like. Cheap, for it sees every cell of a file. */
final class ColumnTally
{
    /** Different values that are kept; a column with more is no choice list. */
    public const DISTINCT = 300;

    private const SAMPLES = 5;

    /** Texts that may be coordinates are read in earnest only so often. */
    private const TRIED = 200;

    private const REMEMBERED = 4_000;

    /** Bytes of texts that are kept; cells may hold megabytes. */
    private const SHORT = 300;

    public const MISSING = ['', '-', '–', '—', 'n/a', 'na', 'null', 'nil', 'none', '#n/a', 'nan'];

    public const YES = ['yes', 'y', 'true', 'ja', 'oui', 'si', 'sí', 'sim', 'ya', 'wahr', 'vrai'];

    public const NO = ['no', 'n', 'false', 'nein', 'non', 'não', 'nao', 'tidak', 'falsch', 'faux'];

    public int $filled = 0;

    public int $empty = 0;

    public int $longest = 0;

    /** @var array<string, int> how many cells are, by what they could be */
    public array $could = [
        'whole' => 0,
        'point' => 0,
        'comma' => 0,
        'yes_no' => 0,
        'date' => 0,
        'time' => 0,
        'moment' => 0,
        'place' => 0,
        'lat' => 0,
        'lon' => 0,
        'zeros' => 0,
        'bit' => 0,
        'unclear' => 0,
    ];

    /** @var array<string, int> order of day and month, as the dates say it */
    public array $orders = ['ymd' => 0, 'dmy' => 0, 'mdy' => 0, 'either' => 0];

    /** @var array<array-key, int> value and how often */
    public array $distinct = [];

    public bool $many = false;

    /** @var list<string> */
    public array $samples = [];

    /** Cells whose kind was looked at. */
    public int $looked = 0;

    private int $tried = 0;

    private int $places = 0;

    /** @var array<string, list<string>> what texts that came before could be, and the order of their dates */
    private array $seen = [];

    /** @param  bool  $closely  whether its kind is looked at too, or just which values there are */
    public function add(string $text, bool $closely = true): void
    {
        $text = trim($text);
        if ($text === '' || (strlen($text) <= 4 && in_array(strtolower($text), self::MISSING, true))) {
            $this->empty++;

            return;
        }
        $this->filled++;
        if (! $this->many) {
            // No choice is as long as that; what is longer is told apart by its beginning.
            $key = strlen($text) > self::SHORT ? mb_strcut($text, 0, self::SHORT) : $text;
            $this->distinct[$key] = ($this->distinct[$key] ?? 0) + 1;
            if (count($this->distinct) <= self::SAMPLES && ! in_array($text, $this->samples, true)) {
                $this->samples[] = mb_substr($text, 0, 80);
            }
            $this->many = count($this->distinct) > self::DISTINCT;
        }
        if (! $closely) {
            return;
        }
        $this->looked++;
        if (strlen($text) > $this->longest) {
            $this->longest = max($this->longest, mb_strlen($text));
        }
        $what = $this->seen[$text] ?? null;
        if ($what === null) {
            $what = $this->kinds($text);
            if (strlen($text) <= self::SHORT && count($this->seen) < self::REMEMBERED) {
                $this->seen[$text] = $what;
            }
        }
        foreach ($what as $one) {
            isset($this->could[$one]) ? $this->could[$one]++ : $this->orders[$one]++;
        }
    }

    /** @return list<string> keys of `could` and `orders` */
    private function kinds(string $text): array
    {
        $before = [$this->could, $this->orders];
        $this->could = array_map(static fn (): int => 0, $this->could);
        $this->orders = array_map(static fn (): int => 0, $this->orders);
        if (strpbrk($text, '0123456789') === false) {
            $this->could['yes_no'] +=
                (int) (strlen($text) <= 6 &&
                    (in_array(mb_strtolower($text), self::YES, true) ||
                        in_array(mb_strtolower($text), self::NO, true)));
        } elseif (! $this->number($text)) {
            $this->clock($text);
        }
        if (
            $this->places + self::TRIED > $this->tried &&
            strpbrk($text, '0123456789') !== false &&
            self::mayBePlace($text)
        ) {
            $this->tried++;
            try {
                CoordinateText::read($text);
                $this->could['place']++;
                $this->places++;
            } catch (Refused) {
            }
        }
        $what = array_keys(array_filter([...$this->could, ...$this->orders]));
        [$this->could, $this->orders] = $before;

        return $what;
    }

    private function number(string $text): bool
    {
        if (strspn($text, '0123456789-+., \'eE') < 1 || strpbrk($text, ':/') !== false) {
            return false;
        }
        $point = NumberText::read($text, false);
        $comma = NumberText::read($text, true);
        if ($point === null && $comma === null) {
            return false;
        }
        if (is_int($point) && $point === $comma) {
            $this->could['whole']++;
            $this->could['bit'] += (int) ($text === '0' || $text === '1');
            // Codes such as 007 lose their noughts as numbers.
            $this->could['zeros'] += (int) (strlen($text) > 1 && $text[0] === '0');
            // A date without signs in it.
            if (strlen($text) === 8 && $text >= '19000101' && $text <= '20991231' && DateText::order($text) !== null) {
                $this->could['date']++;
                $this->orders['ymd']++;
            }
        }
        // 194.879 is one number with a decimal point, and another where points part thousands.
        $this->could['unclear'] += (int) ($point !== null && $comma !== null && (float) $point !== (float) $comma);
        $this->could['point'] += (int) ($point !== null);
        $this->could['comma'] += (int) ($comma !== null);
        $number = $point ?? $comma;
        $this->could['lat'] += (int) (abs($number) <= 90);
        $this->could['lon'] += (int) (abs($number) <= 180);

        // 01.05.24 is a date, though 1.234 is a number.
        return substr_count($text, '.') < 2;
    }

    private function clock(string $text): void
    {
        if (strlen($text) > 40) {
            return;
        }
        $order = DateText::order($text);
        if ($order !== null) {
            $this->could['date']++;
            $this->orders[$order]++;
        } elseif (DateText::time($text) !== null) {
            $this->could['time']++;
        } elseif (
            preg_match('/^(.+?)(?:T|,? +)\d{1,2}[:.h]\d{2}/u', $text, $m) === 1 &&
            ($order = DateText::order($m[1])) !== null
        ) {
            $utc = new \DateTimeZone('UTC');
            if (DateText::moment($text, $order === 'either' ? 'dmy' : $order, $utc) !== null) {
                $this->could['moment']++;
                $this->orders[$order]++;
            }
        }
    }

    private static function mayBePlace(string $text): bool
    {
        return strlen($text) <= 60 && preg_match('/\d[^\d]*[,; °NSEWnsew\'"]+[^\d]*\d/u', $text) === 1;
    }
}
