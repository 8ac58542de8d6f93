<?php

declare(strict_types=1);

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Device\PhotoFacts;
use PinYard\Export\ShortNames;
use PinYard\Geo\Box;
use PinYard\Geo\Wkt;
use PinYard\Import\ColumnGuess;
use PinYard\Import\ColumnTally;
use PinYard\Import\CsvDialect;
use PinYard\Import\CsvRows;
use PinYard\Import\DateText;
use PinYard\Import\HeadRow;
use PinYard\Import\LocationGuess;
use PinYard\Import\NumberText;
use PinYard\Import\PairReader;
use PinYard\Import\PlaceMatch;
use PinYard\Import\PlaceName;
use PinYard\Import\ValueReader;
use PinYard\Problem;
use PinYard\Refused;

function csvRows(string $text, string $by = ',', int $longest = 4_194_304): array
{
    $stream = fopen('php://memory', 'w+b');
    fwrite($stream, $text);
    rewind($stream);
    $rows = new CsvRows($stream, $by, $longest);

    return [
        iterator_to_array($rows->rows()),
        array_map(static fn (Problem $p): string => "$p->code {$p->value}", $rows->notes),
    ];
}

function tallied(array $values): ColumnTally
{
    $tally = new ColumnTally;
    array_map($tally->add(...), $values);

    return $tally;
}

/* RFC 4180, section 2: each rule with the example that it gives. */
it('reads CSV as RFC 4180 has it', function (string $text, array $rows): void {
    expect(csvRows($text)[0])->toBe($rows);
})->with([
    '2.1: a record on each line' => [
        "aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n",
        [1 => ['aaa', 'bbb', 'ccc'], 2 => ['zzz', 'yyy', 'xxx']],
    ],
    '2.2: the last may lack its end' => [
        "aaa,bbb,ccc\r\nzzz,yyy,xxx",
        [1 => ['aaa', 'bbb', 'ccc'], 2 => ['zzz', 'yyy', 'xxx']],
    ],
    '2.4: spaces are part of a field' => ["aaa, bbb ,ccc\n", [1 => ['aaa', ' bbb ', 'ccc']]],
    '2.5: fields may be quoted' => [
        "\"aaa\",\"bbb\",\"ccc\"\r\nzzz,yyy,xxx",
        [1 => ['aaa', 'bbb', 'ccc'], 2 => ['zzz', 'yyy', 'xxx']],
    ],
    '2.6: line breaks, quotes and commas in quotes' => [
        "\"aaa\",\"b \r\nbb\",\"c,cc\"\r\nzzz,yyy,xxx",
        [1 => ['aaa', "b \nbb", 'c,cc'], 2 => ['zzz', 'yyy', 'xxx']],
    ],
    '2.7: a quote by a quote' => ["\"aaa\",\"b\"\"bb\",\"ccc\"\n", [1 => ['aaa', 'b"bb', 'ccc']]],
    'a quote in the middle of a cell is a letter (habit of spreadsheets)' => [
        "5\" pipe,2\n6,7\n",
        [1 => ['5" pipe', '2'], 2 => ['6', '7']],
    ],
    'blank lines are counted and left out' => ["a,b\n\n1,2\n", [1 => ['a', 'b'], 3 => ['1', '2']]],
    'line ends of the first Macintosh' => ["a,b\r1,2\r", [1 => ['a', 'b'], 2 => ['1', '2']]],
]);

it('goes on after a quote that is never closed', function (): void {
    expect(csvRows("a,b\n\"x,1\ny,2\nz,3"))
        ->toBe([[1 => ['a', 'b'], 2 => ['x', '1'], 3 => ['y', '2'], 4 => ['z', '3']], ['intake_quote 2']])
        ->and(csvRows("a,b\n\"x,1\n".str_repeat("y,2\n", 20), ',', 40)[1])
        ->toBe(['intake_quote 2'])
        ->and(count(csvRows("a,b\n\"x,1\n".str_repeat("y,2\n", 20), ',', 40)[0]))
        ->toBe(22);
});

it('finds encoding and delimiter', function (string $bytes, string $encoding, string $by): void {
    $dialect = CsvDialect::of($bytes, true);
    expect([$dialect->encoding, $dialect->delimiter])->toBe([$encoding, $by]);
})->with([
    ["a,b\n1,2\n", 'UTF-8', ','],
    ["a;b\n1,5;2,5\n", 'UTF-8', ';'],
    ["a\tb\n1\t2\n", 'UTF-8', "\t"],
    ["a|b\n1|2\n", 'UTF-8', '|'],
    ["one column\nx, y\n", 'UTF-8', ','],
    ["\xFF\xFEa\0;\0b\0\n\0", 'UTF-16LE', ';'],
    ["gr\xFC\xDFe;b\n1;2\n", 'WINDOWS-1252', ';'],
]);

it('finds the heads', function (array $rows, int $row, array $names): void {
    $heads = HeadRow::find($rows);
    expect($heads->row)->toBe($row)->and($heads->names)->toBe($names);
})->with([
    'in the first row' => [[1 => ['a', 'b'], 2 => ['1', '2']], 1, ['a', 'b']],
    'below a title' => [
        [1 => ['Season', '', ''], 3 => ['Code', 'x', 'y'], 4 => ['A', '1', '2'], 5 => ['B', '1', '2']],
        3,
        ['Code', 'x', 'y'],
    ],
    'nowhere' => [[1 => ['A', '1.5'], 2 => ['B', '2.5']], 0, ['Column A', 'Column B']],
    'years as heads' => [[1 => ['Site', '2021', '2022'], 2 => ['A', '5', '6']], 1, ['Site', '2021', '2022']],
    'doubled and missing' => [
        [1 => ['a', 'A', '', 'a'], 2 => ['1', '2', '3', '4']],
        1,
        ['a', 'A 2', 'Column C', 'a 3'],
    ],
    'nothing at the right' => [[1 => ['a', 'b', '', ''], 2 => ['1', '2', '', '']], 1, ['a', 'b']],
]);

it('reads numbers in both manners', function (string $text, int|float|null $point, int|float|null $comma): void {
    expect([NumberText::read($text, false), NumberText::read($text, true)])->toBe([$point, $comma]);
})->with([
    ['12', 12, 12],
    ['-7', -7, -7],
    ['1.5', 1.5, null],
    ['1,5', null, 1.5],
    ['1,234.5', 1234.5, null],
    ['1.234,5', null, 1234.5],
    ['1,234', 1234, 1.234],
    ['1.234', 1.234, 1234],
    ['1 234,5', null, 1234.5],
    ["12'500", 12500, 12500],
    ['1e3', 1000.0, 1000.0],
    ['.5', 0.5, null],
    ['−3.5', -3.5, null],
    ['1.2.3', null, null],
    ['12a', null, null],
    ['', null, null],
    ['1,23,4', null, null],
    ['12345678901234567890', 1.2345678901234567e19, 1.2345678901234567e19],
]);

/* Forms of dates: ISO 8601 / RFC 3339 where they are so named, else common practice, no source. */
it('reads dates in their order', function (string $text, ?string $dmy, ?string $mdy): void {
    expect([DateText::date($text, 'dmy'), DateText::date($text, 'mdy')])->toBe([$dmy, $mdy]);
})->with([
    ['2026-05-03', '2026-05-03', '2026-05-03'],
    ['20260503', '2026-05-03', '2026-05-03'],
    ['2026/5/3', '2026-05-03', '2026-05-03'],
    ['03/05/2026', '2026-05-03', '2026-03-05'],
    ['3.5.26', '2026-05-03', '2026-03-05'],
    ['31/12/1999', '1999-12-31', null],
    ['12/31/99', null, '1999-12-31'],
    ['3 May 2026', '2026-05-03', '2026-05-03'],
    ['May 3, 2026', '2026-05-03', '2026-05-03'],
    ['Sunday, 3 May 2026', '2026-05-03', '2026-05-03'],
    ['3. Mai 2026', '2026-05-03', '2026-05-03'],
    ['03-mar-70', '1970-03-03', '1970-03-03'],
    ['3 dic 2026', '2026-12-03', '2026-12-03'],
    ['30/02/2026', null, null],
    ['2026-13-01', null, null],
    ['hello', null, null],
]);

it('knows what a date says of the order', function (string $text, ?string $order): void {
    expect(DateText::order($text))->toBe($order);
})->with([
    ['2026-05-03', 'ymd'],
    ['13/05/2026', 'dmy'],
    ['05/13/2026', 'mdy'],
    ['03/05/2026', 'either'],
    ['05/05/2026', 'ymd'],
    ['3 May 2026', 'ymd'],
    ['12.5', null],
    ['x', null],
]);

it('reads times of day and moments', function (): void {
    expect(
        array_map(DateText::time(...), [
            '6:30',
            '06:30:15',
            '6.30',
            '14h05',
            '2:05 pm',
            '12:00 AM',
            '25:00',
            '13:00 pm',
            'noon',
        ]),
    )->toBe(['06:30', '06:30:15', '06:30', '14:05', '14:05', '00:00', null, null, null]);
    $zone = new DateTimeZone('Europe/Berlin');
    $read = static fn (string $t): ?string => DateText::moment($t, 'dmy', $zone);
    // Offsets by RFC 3339, section 5.6; without one by the zone (IANA tz: Berlin is at +01:00 in winter, +02:00 in
    // summer).
    expect(
        array_map($read, [
            '03/05/2026 21:10',
            '03.01.2026, 21:10:30',
            '2026-05-03T21:10:00Z',
            '2026-05-03T21:10:00+05:30',
            '2026/05/03 21:10:00+00',
            '03/05/2026 9:10 pm',
            '03/05/2026',
        ]),
    )->toBe([
        '2026-05-03T19:10:00Z',
        '2026-01-03T20:10:30Z',
        '2026-05-03T21:10:00Z',
        '2026-05-03T15:40:00Z',
        '2026-05-03T21:10:00Z',
        '2026-05-03T19:10:00Z',
        null,
    ]);
    // Over the change of 29 March 2026 (02:00 becomes 03:00) and back on 25 October: as GNU date says.
    foreach (
        [
            '2026-03-28 12:00',
            '2026-03-29 01:30',
            '2026-03-29 03:30',
            '2026-03-30 00:15',
            '2026-10-24 23:00',
            '2026-10-25 03:30',
            '2026-10-26 00:15',
        ] as $text
    ) {
        expect($read($text))->toBe(
            trim((string) shell_exec('TZ=UTC date -d \'TZ="Europe/Berlin" '.$text.'\' +%Y-%m-%dT%H:%M:%SZ')),
        );
    }
});

it('guesses what a column holds', function (array $values, FieldKind $kind, ?string $order, bool $comma): void {
    $guess = ColumnGuess::of(tallied($values));
    expect([$guess->kind, $guess->order, $guess->comma])->toBe([$kind, $order, $comma]);
})->with([
    'whole numbers' => [['1', '20', '-3', 'n/a'], FieldKind::WholeNumber, null, false],
    'decimals' => [['1.5', '2', '3.25'], FieldKind::Decimal, null, false],
    'decimal commas' => [['1,5', '2', '3,25'], FieldKind::Decimal, null, true],
    'codes with noughts' => [['007', '012', '113'], FieldKind::ShortText, null, false],
    'yes and no' => [['yes', 'no', 'Yes', ''], FieldKind::YesNo, null, false],
    'ja und nein' => [['ja', 'nein'], FieldKind::YesNo, null, false],
    'dates, day first' => [['03/05/2026', '14/05/2026'], FieldKind::Date, 'dmy', false],
    'dates, month first' => [['03/05/2026', '05/14/2026'], FieldKind::Date, 'mdy', false],
    'dates that do not tell' => [['03/05/2026', '04/05/2026'], FieldKind::Date, null, false],
    'dates with points, not numbers' => [['01.05.24', '14.05.24'], FieldKind::Date, 'dmy', false],
    'times' => [['6:30', '14:05'], FieldKind::Time, null, false],
    'moments' => [['2026-05-03 06:30', '2026-05-04T07:00:00Z'], FieldKind::DateTime, 'ymd', false],
    'few values' => [['Oak', 'Ash', 'Oak', 'Oak', 'Ash', 'Ash'], FieldKind::OneChoice, null, false],
    'names' => [['Ann', 'Bo', 'Cy'], FieldKind::ShortText, null, false],
    'remarks' => [[str_repeat('long ', 60)], FieldKind::LongText, null, false],
    'nothing' => [['', '-'], FieldKind::ShortText, null, false],
]);

it('finds where rows are, by name in several languages and by value', function (array $columns, array $expected): void {
    expect(LocationGuess::of(array_keys($columns), array_map(tallied(...), array_values($columns))))->toBe($expected);
})->with([
    'English' => [
        ['name' => ['a'], 'Latitude' => ['1.5'], 'Longitude' => ['2.5']],
        ['way' => 'pair', 'x' => 2, 'y' => 1, 'metres' => false],
    ],
    'German' => [
        ['Breitengrad' => ['1,5'], 'Längengrad' => ['2,5']],
        ['way' => 'pair', 'x' => 1, 'y' => 0, 'metres' => false],
    ],
    'Spanish, with units' => [
        ['Longitud (°)' => ['2.5'], 'Latitud (°)' => ['1.5']],
        ['way' => 'pair', 'x' => 0, 'y' => 1, 'metres' => false],
    ],
    'metres' => [
        ['Easting' => ['530000', '531000'], 'Northing' => ['180000', '181000']],
        ['way' => 'pair', 'x' => 0, 'y' => 1, 'metres' => true],
    ],
    'x and y in metres' => [
        ['x' => ['530000.5'], 'y' => ['180000.5']],
        ['way' => 'pair', 'x' => 0, 'y' => 1, 'metres' => true],
    ],
    'by value' => [
        ['a' => ['14.51234', '14.52345'], 'b' => ['111.51234', '111.52345'], 'c' => ['x', 'y']],
        ['way' => 'pair', 'x' => 1, 'y' => 0, 'metres' => false],
    ],
    'pairs in one cell' => [
        ['n' => ['a', 'b'], 'w' => ['-14.5, -11.5', '14°30\'S 11°30\'W']],
        ['way' => 'text', 'columns' => [1]],
    ],
    'addresses' => [
        ['Address' => ['Quay Steps 4', 'Lamp Row 2'], 'n' => ['1', '2']],
        ['way' => 'text', 'columns' => [0]],
    ],
    'nothing' => [['n' => ['1', '2'], 'm' => ['a', 'b']], ['way' => 'none']],
]);

it('puts right what can only have been meant one way', function (float $x, float $y, ?string $how, ?array $at): void {
    $judged = (new PairReader(false, Box::of(-12, -15, -11, -14)))->judged($x, $y);
    $judged instanceof Problem
        ? expect([$judged->code, null])->toBe([$how, $at])
        : expect([$judged[1], [$judged[0]->lon, $judged[0]->lat]])->toBe([$how, $at]);
})->with([
    'as it should be' => [-11.5, -14.5, null, [-11.5, -14.5]],
    'swapped' => [-14.5, -11.5, 'swapped', [-11.5, -14.5]],
    'lost the sign of its latitude' => [-11.5, 14.5, 'sign', [-11.5, -14.5]],
    'lost both' => [11.5, 14.5, 'sign', [-11.5, -14.5]],
    'elsewhere' => [10.0, 50.0, 'outside', [10.0, 50.0]],
    'latitude beyond the pole, so swapped' => [50.0, 100.0, 'swapped', [100.0, 50.0]],
    'nowhere' => [200.0, 300.0, 'position_outside_world', null],
    'nought and nought' => [0.0, 0.0, 'intake_zero', null],
]);

/*
 * NaN and infinity are no numbers of JSON (RFC 8259, section 6); a GDAL writer may still put them into well-known
 * text.
 */
it('reads well-known text, and refuses what is no shape', function (): void {
    expect(Wkt::geometry('POINT (1.5 -2)'))
        ->toBe(['type' => 'Point', 'coordinates' => [1.5, -2]])
        ->and(Wkt::geometry('LINESTRING Z (1 2 9, 3 4 9)'))
        ->toBe(['type' => 'LineString', 'coordinates' => [[1, 2], [3, 4]]])
        ->and(Wkt::geometry('MULTIPOLYGON (((0 0,1 0,1 1,0 0)),((5 5,6 5,6 6,5 5)))')['coordinates'][1][0][2])
        ->toBe([6, 6])
        ->and(Wkt::geometry('MULTIPOINT ((1 2), (3 4))'))
        ->toBe(Wkt::geometry('MULTIPOINT (1 2, 3 4)'))
        ->and(Wkt::geometry('POLYGON EMPTY'))
        ->toBeNull();
    foreach (
        ['POINT (nan nan)', 'GEOMETRYCOLLECTION (POINT (1 '
            .'2))', 'CIRCULARSTRING (0 0, 1 1, 1 0)', 'hello', 'POINT (1'] as $bad
    ) {
        expect(fn () => Wkt::geometry($bad))->toThrow(Refused::class);
    }
    $polygon = ['type' => 'Polygon', 'coordinates' => [[[0, 0], [1.5, 0], [1, 1], [0, 0]]]];
    expect(Wkt::geometry(Wkt::of($polygon)))->toBe($polygon);
});

it('compares names of places', function (string $wanted, string $known, float $least, float $most): void {
    expect(PlaceName::of($wanted)->likeness(PlaceName::plain($known)))
        ->toBeGreaterThanOrEqual($least)
        ->toBeLessThanOrEqual($most);
})->with([
    ['Pelican Quay', 'Pelican Quay', 1.0, 1.0],
    ['pelican quay', 'PELICAN  QUAY', 1.0, 1.0],
    ['Sao Tome', 'São Tomé', 1.0, 1.0],
    ['St. Mary', 'Saint Mary', 1.0, 1.0],
    ['High St', 'High Street', 1.0, 1.0],
    ['Quay Pelican', 'Pelican Quay', 0.97, 0.97],
    ['Pelikan Quay', 'Pelican Quay', 0.9, 0.96],
    ['Turtle Bay', 'Turtle Bay Harbour', 0.7, 0.9],
    ['Turtle Bay', 'Thistle Way', 0.0, 0.8],
    ['Nowhere', 'Pelican Quay', 0.0, 0.5],
]);

it('takes a place only when it is clear which', function (): void {
    $area = Box::of(-12, -15, -11, -14);
    $known = [
        ['name' => 'Turtle Bay', 'of' => 'North', 'lon' => -11.4, 'lat' => -14.4],
        ['name' => 'Turtle Bay', 'of' => 'South', 'lon' => -11.6, 'lat' => -14.6],
        ['name' => 'Turtle Bay', 'of' => 'Far Away', 'lon' => 100.0, 'lat' => 10.0],
    ];
    expect(PlaceMatch::among('Turtle Bay', $known, $area, 0.85)->found)
        ->toBe('several')
        ->and(PlaceMatch::among('Turtle Bay, South', $known, $area, 0.85)->candidates[0]['of'])
        ->toBe('South')
        ->and(PlaceMatch::among('Turtle Bay, South', $known, $area, 0.85)->found)
        ->toBe('one')
        ->and(PlaceMatch::among('Turtle Bay, Far Away', $known, $area, 0.85)->candidates[0]['lon'])
        ->toBe(100.0)
        ->and(PlaceMatch::among('Cactus Hill', $known, $area, 0.85)->found)
        ->toBe('none');
});

it('reads photos as exiftool wrote them', function (): void {
    $path = sys_get_temp_dir().'/facts.jpg';
    imagejpeg(imagecreatetruecolor(8, 8), $path);
    exec(
        "exiftool -q -overwrite_original -DateTimeOriginal='2025:05:03 06:30:00' -OffsetTimeOriginal=-01:00 "
            .'-GPSLatitude=14.5125 -GPSLatitudeRef=S -GPSLongitude=11.25 -GPSLongitudeRef=W -GPSAltitude=12.5 '
                ."-GPSAltitudeRef='Below Sea Level' -GPSImgDirection=271.5 -GPSImgDirectionRef=T $path",
        result_code: $code,
    );
    expect($code)->toBe(0);
    $facts = PhotoFacts::of(exif_read_data($path));
    // What exiftool reads out of it again.
    exec("exiftool -n -s3 -GPSLatitude -GPSLongitude -GPSAltitude $path", $said);
    expect($facts->taken)
        ->toBe('2025-05-03 06:30:00-01:00')
        ->and([$facts->lat, $facts->lon, $facts->altitude])
        ->each->toBeFloat()
        ->and($facts->lat)
        ->toEqualWithDelta((float) $said[0], 1e-6)
        ->and($facts->lon)
        ->toEqualWithDelta((float) $said[1], 1e-6)
        ->and($facts->altitude)
        ->toEqualWithDelta((float) $said[2], 1e-6)
        ->and($facts->direction)
        ->toBe(271.5);
    expect(
        PhotoFacts::of([
            'GPSLatitude' => ['1/0', '2/1', '3/1'],
            'GPSLongitude' => 'x',
            'DateTimeOriginal' => '0000:00:00 00:00:00',
        ]),
    )->toEqual(PhotoFacts::of([]));
});

it('turns texts into values of a field, or says why not', function (
    FieldKind $kind,
    string $text,
    mixed $expected,
): void {
    $choices = $kind->isChoice()
        ? [new PinYard\Design\Choice('CC', 'Loggerhead'), new PinYard\Design\Choice('CM', 'Green')]
        : [];
    $value = (new ValueReader(
        new Field('f', 'F', $kind, choices: $choices, unit: $kind->isNumber() ? 'cm' : null),
        'dmy',
        true,
        new DateTimeZone('UTC'),
    ))->read($text);
    expect($value instanceof Problem ? $value->code : $value)->toBe($expected);
})->with([
    [FieldKind::WholeNumber, '1.200', 1200],
    [FieldKind::WholeNumber, '12 cm', 12],
    [FieldKind::WholeNumber, 'many', 'intake_whole_number'],
    [FieldKind::WholeNumber, '1,5', 'not_whole'],
    [FieldKind::Decimal, '1,5', 1.5],
    [FieldKind::Decimal, 'n/a', null],
    [FieldKind::YesNo, 'Ja', true],
    [FieldKind::YesNo, '0', false],
    [FieldKind::YesNo, 'maybe', 'intake_yes_no'],
    [FieldKind::Date, '3.5.2026', '2026-05-03'],
    [FieldKind::Date, '3.5.2026 00:00', '2026-05-03'],
    [FieldKind::Date, '31.2.2026', 'intake_date'],
    [FieldKind::DateTime, '3.5.2026', '2026-05-03T00:00:00Z'],
    [FieldKind::Time, '7:05', '07:05'],
    [FieldKind::OneChoice, 'green', 'CM'],
    [FieldKind::OneChoice, 'cc', 'CC'],
    [FieldKind::OneChoice, 'Hawksbill', 'choice_unknown'],
    [FieldKind::SeveralChoices, 'Green; CC', ['CM', 'CC']],
    [FieldKind::SeveralChoices, '["CC","CM"]', ['CC', 'CM']],
    [FieldKind::ShortText, "two\nlines", 'two lines'],
    [FieldKind::ShortText, "'=1+1", '=1+1'],
    [FieldKind::ShortText, "'tis", "'tis"],
    [FieldKind::ShortText, str_repeat('x', 300), 'text_too_long'],
    [FieldKind::LongText, "two\r\nlines", "two\nlines"],
]);

it('shortens field names for shapefiles, none twice (dBASE: ten characters)', function (): void {
    expect(ShortNames::of(['species', 'high_water_mark', 'high_water_metres', 'high_water']))->toBe([
        'species' => 'species',
        'high_water_mark' => 'high_water',
        'high_water_metres' => 'high_wat_2',
        'high_water' => 'high_wat_3',
    ]);
});
