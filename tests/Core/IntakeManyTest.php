<?php

declare(strict_types=1);

use PinYard\Geo\Box;
use PinYard\Geo\Position;
use PinYard\Import\CsvRows;
use PinYard\Import\DateText;
use PinYard\Import\HeadRow;
use PinYard\Import\NumberText;
use PinYard\Import\PairReader;
use PinYard\Import\PlaceMatch;
use PinYard\Import\PlaceName;
use PinYard\Problem;

/*
 * Many cases from fixed seeds, against hands that this project did not make: PHP's own CSV reader, ICU's number and
 * date formats
 * (php-intl; ICU 72 on Debian 12), and properties that must hold whatever the input is.
 */

/** @return list<list<string>> rows of a text, by their order */
function rowsOf(string $text): array
{
    $stream = fopen('php://memory', 'w+b');
    fwrite($stream, $text);
    rewind($stream);

    return array_values(iterator_to_array((new CsvRows($stream, ','))->rows()));
}

/** @return list<list<string>> the same by PHP's own reader */
function rowsByPhp(string $text): array
{
    $stream = fopen('php://memory', 'w+b');
    fwrite($stream, $text);
    rewind($stream);
    $rows = [];
    while (($cells = fgetcsv($stream, null, ',', '"', '')) !== false) {
        if ($cells !== [null]) {
            $rows[] = array_map(strval(...), $cells);
        }
    }

    return $rows;
}

it('reads as PHP reads what PHP has written', function (int $seed): void {
    mt_srand($seed);
    $pieces = ['a', 'B', '7', ' ', ',', '"', '""', "\n", 'é', '🐢', ';', "\t", '', 'x y', "it's"];
    for ($round = 0; $round < 150; $round++) {
        $rows = [];
        $width = mt_rand(1, 5);
        for ($i = 0, $n = mt_rand(1, 6); $i < $n; $i++) {
            $cells = [];
            for ($j = 0; $j < $width; $j++) {
                $cell = '';
                for ($k = mt_rand(0, 4); $k > 0; $k--) {
                    $cell .= $pieces[mt_rand(0, count($pieces) - 1)];
                }
                $cells[] = $cell;
            }
            // A row of one empty cell is a blank line, which is left out.
            $rows[] = $cells === [''] ? ['-'] : $cells;
        }
        $stream = fopen('php://memory', 'w+b');
        foreach ($rows as $row) {
            fputcsv($stream, $row, ',', '"', '', ["\n", "\r\n"][$round % 2]);
        }
        rewind($stream);
        $text = (string) stream_get_contents($stream);
        $expected = array_map(
            static fn (array $row): array => array_map(static fn (string $cell): string => $cell, $row),
            $rows,
        );
        expect(rowsOf($text))
            ->toBe($expected, "seed $seed, round $round")
            ->and(rowsOf($text))
            ->toBe(rowsByPhp($text));
    }
})->with([1, 2, 3]);

it('comes to an end with whatever bytes', function (int $seed): void {
    mt_srand($seed);
    for ($round = 0; $round < 200; $round++) {
        $bytes = '';
        for ($k = mt_rand(0, 120); $k > 0; $k--) {
            $bytes .= [',', '"', "\n", "\r", 'a', '1', ' ', chr(mt_rand(0, 255))][mt_rand(0, 7)];
        }
        $rows = rowsOf($bytes);
        // Nothing is made up and nothing lost: what comes out stood in what went in, apart from quotes, blanks and line
        // ends.
        $bare = static fn (string $text): string => str_replace(['"', ',', ' ', "\n", "\r"], '', $text);
        expect($bare(implode('', array_merge([''], ...$rows))))->toBe($bare($bytes), "seed $seed, round $round");
    }
})->with([4, 5, 6]);

it('reads numbers as ICU writes them', function (string $locale, bool $comma): void {
    mt_srand(7);
    $written = new NumberFormatter($locale, NumberFormatter::DECIMAL);
    $written->setAttribute(NumberFormatter::MAX_FRACTION_DIGITS, 4);
    for ($i = 0; $i < 300; $i++) {
        $number = round(mt_rand(-9_999_999, 9_999_999) / [1, 10, 100, 1_000, 10_000][mt_rand(0, 4)], 4);
        $text = (string) $written->format($number);
        $read = NumberText::read($text, $comma);
        expect($read)
            ->not->toBeNull("$locale: $text")
            ->and((float) $read)
            ->toEqualWithDelta($number, 1e-9, "$locale: $text");
    }
})->with([
    'English' => ['en', false],
    'German' => ['de', true],
    'French, parted by narrow blanks' => ['fr', true],
    'Spanish' => ['es', true],
    'Portuguese' => ['pt', true],
    'Indonesian' => ['id', true],
    'Swedish, with another minus' => ['sv', true],
]);

it('reads dates as ICU writes them', function (string $locale, string $pattern, string $order): void {
    mt_srand(8);
    $written = new IntlDateFormatter(
        $locale,
        IntlDateFormatter::NONE,
        IntlDateFormatter::NONE,
        'UTC',
        IntlDateFormatter::GREGORIAN,
        $pattern,
    );
    for ($i = 0; $i < 200; $i++) {
        $at = gmmktime(12, 0, 0, mt_rand(1, 12), mt_rand(1, 28), mt_rand(1971, 2068));
        $text = (string) $written->format($at);
        expect(DateText::date($text, $order))->toBe(gmdate('Y-m-d', $at), "$locale, $pattern: $text");
    }
})->with([
    'by the standard' => ['en', 'yyyy-MM-dd', 'dmy'],
    'year first, with strokes' => ['ja', 'yyyy/MM/dd', 'dmy'],
    'day first' => ['en_GB', 'dd/MM/yyyy', 'dmy'],
    'day first, short year' => ['en_GB', 'd/M/yy', 'dmy'],
    'day first, with points' => ['de', 'dd.MM.yyyy', 'dmy'],
    'month first' => ['en_US', 'M/d/yyyy', 'mdy'],
    'named, English' => ['en_GB', 'd MMM yyyy', 'mdy'],
    'named, English in full' => ['en_GB', 'd MMMM yyyy', 'mdy'],
    'named, as in America' => ['en_US', 'MMMM d, yyyy', 'dmy'],
    'named, with the day of the week' => ['en_GB', 'EEEE, d MMMM yyyy', 'mdy'],
    'named, German' => ['de', 'd. MMMM yyyy', 'mdy'],
    'named, Italian' => ['it', 'd MMMM yyyy', 'mdy'],
    'named, Indonesian' => ['id', 'd MMMM yyyy', 'mdy'],
    'named, French' => ['fr', 'd MMMM yyyy', 'mdy'],
    'named, Spanish' => ['es', 'd MMMM yyyy', 'mdy'],
    'named, Portuguese' => ['pt', 'd MMMM yyyy', 'mdy'],
    'named, Dutch' => ['nl', 'd MMMM yyyy', 'mdy'],
    'named, Swedish' => ['sv', 'd MMMM yyyy', 'mdy'],
    'named, Norwegian' => ['nb', 'd. MMMM yyyy', 'mdy'],
    'named, Danish' => ['da', 'd. MMMM yyyy', 'mdy'],
]);

it('reads moments of a zone as ICU writes them', function (string $zone): void {
    mt_srand(9);
    $written = new IntlDateFormatter(
        'en',
        IntlDateFormatter::NONE,
        IntlDateFormatter::NONE,
        $zone,
        IntlDateFormatter::GREGORIAN,
        'yyyy-MM-dd HH:mm:ss',
    );
    $offsets = new DateTimeZone($zone);
    for ($i = 0; $i < 300; $i++) {
        $at = mt_rand(gmmktime(0, 0, 0, 1, 1, 1980), gmmktime(0, 0, 0, 1, 1, 2035));
        $read = DateText::moment((string) $written->format($at), 'dmy', $offsets);
        // The hour that comes twice in autumn may be either; all others are themselves.
        $twice = abs(strtotime((string) $read) - $at);
        expect($twice)->toBeIn([0, 1_800, 3_600], "$zone at $at");
    }
})->with(['UTC', 'Europe/Berlin', 'America/St_Johns', 'Australia/Lord_Howe', 'Asia/Kathmandu', 'Pacific/Apia']);

it('gives every column one name of its own', function (int $seed): void {
    mt_srand($seed);
    $words = ['a', 'A', '', ' ', 'a 2', 'Column B', 'x', "x\u{FEFF}", 'é', "two\nlines"];
    for ($round = 0; $round < 100; $round++) {
        $row = array_map(static fn (): string => $words[mt_rand(0, count($words) - 1)], range(1, mt_rand(1, 12)));
        $row[] = 'last';
        $heads = HeadRow::at([1 => $row, 2 => array_fill(0, count($row), 'v')], 1);
        $lower = array_map(mb_strtolower(...), $heads->names);
        expect($heads->names)
            ->toHaveCount(count($row))
            ->and(array_unique($lower))
            ->toBe($lower)
            ->and(array_filter($heads->names, static fn (string $n): bool => trim($n) === ''))
            ->toBe([]);
    }
})->with([10, 11]);

it('names columns as spreadsheets do', function (int $i, string $letter): void {
    expect(HeadRow::letter($i))->toBe($letter);
})->with([[0, 'A'], [25, 'Z'], [26, 'AA'], [51, 'AZ'], [52, 'BA'], [701, 'ZZ'], [702, 'AAA']]);

it('mends a pair only if one way alone falls into the area', function (int $seed): void {
    mt_srand($seed);
    $area = Box::of(-12, -15, -11, -14);
    $reader = new PairReader(false, $area);
    for ($i = 0; $i < 400; $i++) {
        [$lon, $lat] = [-12 + mt_rand() / mt_getrandmax(), -15 + mt_rand() / mt_getrandmax()];
        $wrong = match ($i % 4) {
            0 => [$lat, $lon],
            1 => [-$lon, $lat],
            2 => [$lon, -$lat],
            default => [-$lon, -$lat],
        };
        $judged = $reader->judged(...$wrong);
        expect($judged)->not->toBeInstanceOf(Problem::class);
        [$place, $how] = $judged;
        expect([$place->lon, $place->lat])
            ->toBe([$lon, $lat])
            ->and($how)
            ->toBe($i % 4 === 0 ? 'swapped' : 'sign')
            ->and($area->contains($place))
            ->toBeTrue();
    }
    // An area on the equator and the first meridian: several ways fall into it, so nothing is guessed.
    $both = new PairReader(false, Box::of(-5, -5, 5, 5));
    [$place, $how] = $both->judged(3.0, 2.0);
    expect([$place->lon, $place->lat, $how])->toBe([3.0, 2.0, null]);
    $far = (new PairReader(false, $area, false))->judged(-14.5, -11.5);
    expect($far[1])->toBe('outside');
})->with([12, 13]);

it('never takes a place that is spelt worse before one that is spelt right', function (): void {
    mt_srand(14);
    $area = Box::of(-12, -15, -11, -14);
    $letters = range('a', 'z');
    for ($round = 0; $round < 200; $round++) {
        $name = ucfirst(
            implode('', array_map(static fn (): string => $letters[mt_rand(0, 25)], range(1, mt_rand(5, 10)))),
        );
        $spoilt = $name;
        $spoilt[mt_rand(0, strlen($name) - 1)] = '1';
        $at = static fn (string $n): array => ['name' => $n, 'of' => '', 'lon' => -11.5, 'lat' => -14.5];
        $match = PlaceMatch::among($name, [$at($spoilt), $at($name)], $area, 0.7);
        expect($match->candidates[0]['name'])->toBe($name)->and($match->candidates[0]['score'])->toBe(1.0);
    }
});

it('likens a name to itself alone in full, and to another as that to it', function (): void {
    $names = [
        'Port Maria',
        'Porto Maria',
        'Maria Port',
        'Saint Mary',
        'Long Sound Road 22',
        'Long Sound Road 2',
        'X',
        'São Tomé',
        'Halcyon',
    ];
    foreach ($names as $a) {
        expect(PlaceName::of($a)->likeness(PlaceName::plain($a)))->toBe(1.0);
        foreach ($names as $b) {
            $there = PlaceName::of($a)->likeness(PlaceName::plain($b));
            $back = PlaceName::of($b)->likeness(PlaceName::plain($a));
            expect($there)
                ->toEqualWithDelta($back, 1e-9, "$a, $b")
                ->toBeGreaterThanOrEqual(0.0)
                ->toBeLessThanOrEqual(1.0);
        }
    }
    expect(PlaceName::of('')->likeness('x'))
        ->toBe(0.0)
        ->and(PlaceName::of(', ,')->name)
        ->toBe('')
        ->and(PlaceName::of('Quay 4, Marram, Cays')->context)
        ->toBe(['marram', 'cays']);
});

it('puts the nearer first of two places that are called the same', function (): void {
    $area = Box::of(-12, -15, -11, -14);
    $match = PlaceMatch::among(
        'Sandmartin',
        [
            ['name' => 'Sandmartin', 'of' => 'Elsewhere', 'lon' => 100.0, 'lat' => 50.0],
            ['name' => 'Sandmartin', 'of' => 'Cays', 'lon' => -11.5, 'lat' => -14.5],
        ],
        $area,
        0.85,
    );
    expect($match->found)
        ->toBe('one')
        ->and($match->candidates[0]['of'])
        ->toBe('Cays')
        ->and($area->contains(Position::of($match->candidates[0]['lon'], $match->candidates[0]['lat'])))
        ->toBeTrue();
});
