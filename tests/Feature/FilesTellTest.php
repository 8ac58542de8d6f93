<?php

declare(strict_types=1);

use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Device\PhotoFacts;
use PinYard\Geo\Box;
use PinYard\Import\CsvRows;
use PinYard\Import\LocationGuess;
use PinYard\Import\PairReader;
use PinYard\Import\PlaceMatch;
use PinYard\Import\TableAnalysis;

uses(Tests\ImportSteps::class);

/* What came in or went out wrong without a word. Each case was seen. */
beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
    $this->csv = fn (string $text): array => $this->bring($this->desk, $this->programme_, ['a.csv' => $text]);
    $this->notes = fn (array $import): string => implode("\n", $import['reading']['notes']);
    $this->export = function (Layer $layer, array $with): string {
        $export = $this->actingAs($this->desk)
            ->postJson("/api/v1/layers/{$layer->id}/exports", $with)
            ->assertSuccessful()
            ->json();
        $this->getJson("/api/v1/exports/{$export['id']}")
            ->assertOk()
            ->assertJsonPath('state', 'done');

        return (string) $this->get("/api/v1/exports/{$export['id']}/file")
            ->assertOk()
            ->streamedContent();
    };
});

it('writes labels of any script as CSV', function (string $choices): void {
    $layer = $this->layer($this->programme_, [
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            [
                'key' => 'kind',
                'label' => 'Größe',
                'kind' => 'one_choice',
                'choices' => [
                    ['code' => 'm', 'label' => 'Möwe'],
                    ['code' => 'u', 'label' => 'ウミガメ'],
                    ['code' => 'f', 'label' => '=1+1'],
                ],
            ],
        ],
    ]);
    $this->sync(
        $this->desk,
        array_map(fn (string $k): array => $this->add($layer, ['values' => ['code' => "é-$k", 'kind' => $k]]), [
            'm',
            'u',
            'f',
        ]),
    );
    $csv = ($this->export)($layer, ['format' => 'csv', 'choices' => $choices]);
    expect($csv)->toContain('Möwe')->toContain('ウミガメ')->toContain("'=1+1")->toContain('é-m');
    expect(($this->export)($layer, ['format' => 'geojson', 'choices' => $choices]))->toContain('"ウミガメ"');
})->with(['labels', 'both']);

it('lets no spreadsheet carry out a head, nor what stands behind a tab or a line end', function (): void {
    // Source: OWASP, CSV Injection: = + - @, tab (0x09), carriage return (0x0D); line feed as well.
    $layer = $this->layer($this->programme_, [
        'fields' => [
            ['key' => 'code', 'label' => '=cmd|calc', 'kind' => 'short_text'],
            ['key' => 'note', 'label' => 'Note', 'kind' => 'long_text'],
        ],
    ]);
    $texts = ["\t=1+1", "\r=1+1", "\n=1+1", '@SUM(1)', '-1', 'plain'];
    $this->sync(
        $this->desk,
        array_map(fn (string $t): array => $this->add($layer, ['values' => ['code' => 'c', 'note' => $t]]), $texts),
    );
    $stream = fopen('php://memory', 'w+b');
    fwrite($stream, substr(($this->export)($layer, ['format' => 'csv']), 3));
    rewind($stream);
    $rows = [];
    while (($row = fgetcsv($stream, null, ',', '"', '')) !== false) {
        $rows[] = $row;
    }
    $note = array_search('Note', $rows[0], true);
    expect($rows[0])
        ->toContain("'=cmd|calc")
        ->and(array_column(array_slice($rows, 1), $note))
        ->toEqualCanonicalizing(["'\t=1+1", "'\r=1+1", "'\n=1+1", "'@SUM(1)", "'-1", 'plain']);
    // What comes in again is what was meant.
    $back = $this->land(
        $this->decide(
            ($this->csv)("lat,lon,note\n-14.5,-11.5,\"'@SUM(1)\"\n-14.5,-11.5,\"'\t=1\"\n-14.6,-11.6,it's\n"),
        ),
    );
    expect(array_column(array_column($this->recordsOf($back['layer']), 'values'), 'note'))->toEqualCanonicalizing([
        '@SUM(1)',
        '=1',
        "it's",
    ]);
});

describe('numbers, dates and times that may be read in two ways', function (): void {
    it('follow the other columns of their file, say so, and can be switched', function (): void {
        $import = ($this->csv)("lat;lon;depth;eggs\n-14,5001;-11,5002;3,25;194.879\n-14,5101;-11,5102;4,5;2.500\n");
        $eggs = $import['settings']['columns'][3];
        expect($eggs['comma'])
            ->toBeTrue()
            ->and(($this->notes)($import))
            ->toContain('“eggs”: 194.879 was read as 194,879');
        $columns = $import['settings']['columns'];
        $columns[3]['comma'] = false;
        expect($this->decide($import)['review']['rows'][0]['values']['eggs'])
            ->toBe('194879')
            ->and($this->decide($import, ['columns' => $columns])['review']['rows'][0]['values']['eggs'])
            ->toBe('194.879');
        // With points everywhere else they are points; it is said as well.
        $points = ($this->csv)("lat,lon,depth,eggs\n-14.5001,-11.5002,3.25,\"194,879\"\n-14.51,-11.51,4.5,\"2,500\"\n");
        expect($points['settings']['columns'][3]['comma'])
            ->toBeFalse()
            ->and(($this->notes)($points))
            ->toContain('was read as 194,879');
    });

    it('an empty time is no midnight', function (): void {
        $import = ($this->csv)(
            "lat,lon,date,time\n"
                ."-14.5,-11.5,2026-05-01,06:30\n"
                ."-14.5,-11.5,2026-05-02,\n"
                ."-14.5,-11.5,2026-05-03,n/a\n"
                ."-14.5,-11.5,2026-05-04,00:00\n",
        );
        expect($import['settings']['columns'][2])->toMatchArray(['kind' => 'date_time', 'with' => 3]);
        $review = $this->decide($import)['review'];
        expect($review['ready'])
            ->toBe(2)
            ->and(array_column($review['why'], 'count', 'code'))
            ->toBe(['intake_time_missing' => 2])
            ->and(array_column(array_column($review['rows'], 'values'), 'date')[1])
            ->toBeNull();
    });

    it('columns and rows that contradict each other in the order of day and month are asked about', function (): void {
        $import = ($this->csv)(
            "lat,lon,laid,seen\n-14.5,-11.5,25/03/2026,03/25/2026\n-14.5,-11.5,26/04/2026,04/26/2026\n",
        );
        expect($this->decide($import)['review']['undecided'])->toBe([2, 3]);
        $rows = ($this->csv)("lat,lon,laid\n-14.5,-11.5,25/03/2026\n-14.5,-11.5,26/04/2026\n-14.5,-11.5,03/25/2026\n");
        expect($this->decide($rows)['review']['undecided'])->toBe([2]);
    });

    it('hours that a clock change skips or repeats are counted', function (): void {
        // Source: IANA tz data: Europe/Berlin left out 02:00 to 03:00 on 29 March 2026 and shows 02:00 to 03:00 twice
        // on 25 October 2026.
        $import = ($this->csv)(
            "lat,lon,seen\n-14.5,-11.5,2026-03-29 02:30\n-14.5,-11.5,2026-10-25 02:30\n-14.5,-11.5,2026-10-25 "
                ."03:30\n-14.5,-11.5,2026-03-29 01:59\n-14.5,-11.5,2026-10-25T02:30:00+01:00\n",
        );
        expect($this->decide($import, ['zone' => 'Europe/Berlin'])['review']['corrections']['clock'])
            ->toBe(2)
            ->and($this->decide($import, ['zone' => 'Atlantic/St_Helena'])['review']['corrections']['clock'])
            ->toBe(0);
    });
});

describe('places that nobody gave', function (): void {
    it('are not made of ordinary numbers', function (): void {
        $two = "sample,ph,depth\na,7.1234,12.5678\nb,7.2345,13.6789\nc,7.3456,14.7891\n";
        expect(($this->csv)($two)['settings']['location']['way'])->toBe('none');
        // Where they fall into the area, they are places.
        expect(
            ($this->csv)("sample,a,b\na,-14.5123,-11.5123\nb,-14.5223,-11.5223\n")['settings']['location'],
        )->toMatchArray(['way' => 'pair', 'columns' => [2, 1]]);
        $tallies = function (string ...$columns): array {
            $analysis = new TableAnalysis(array_map(strval(...), array_keys($columns)));
            foreach (range(0, 4) as $i) {
                $analysis->add(
                    array_map(
                        static fn (string $c): string => number_format((float) $c + $i / 1000, 4, '.', ''),
                        $columns,
                    ),
                    null,
                );
            }

            return LocationGuess::of(
                array_map(strval(...), array_keys($columns)),
                $analysis->tallies,
                Box::of(170, -20, -170, -10),
            );
        };
        // An area over the antimeridian, from both of its sides; and an area that is most of the world, which says
        // nothing.
        expect($tallies('-15.5', '175.1')['way'])
            ->toBe('pair')
            ->and($tallies('-15.5', '-175.1')['way'])
            ->toBe('pair')
            ->and($tallies('-15.5', '12.5')['way'])
            ->toBe('none');
    });

    it('are not turned round where a letter says which is which', function (): void {
        $reader = new PairReader(false, Box::of(-12, -15, -11, -14));
        expect($reader->numbers('10 E', '91 N'))->toBe([10.0, 91.0, true]);
        expect($reader->judged(10.0, 91.0, true))
            ->toBeInstanceOf(PinYard\Problem::class)
            ->and($reader->judged(-14.5, -11.5)[1])
            ->toBe('swapped')
            ->and($reader->judged(-14.5, -11.5, true)[1])
            ->toBe('outside');
        $import = $this->decide(($this->csv)("lat,lon\n91 N,10 E\n14.5 S,11.5 W\n"));
        expect($import['review']['placed'])->toBe(1)->and($import['review']['corrections']['swapped'])->toBe(0);
    });

    it('are not taken from a photo that does not say on which side it was', function (): void {
        // Source: EXIF 2.32 (CIPA DC-008), 4.6.6: GPSLatitudeRef and GPSLongitudeRef.
        $tags = ['GPSLatitude' => ['14/1', '30/1', '0/1'], 'GPSLongitude' => ['11/1', '30/1', '0/1']];
        expect(PhotoFacts::of($tags))
            ->toMatchObject(['lat' => null, 'lon' => null, 'sideless' => true])
            ->and(PhotoFacts::of([...$tags, 'GPSLatitudeRef' => 'S', 'GPSLongitudeRef' => "\0"])->sideless)
            ->toBeTrue()
            ->and(PhotoFacts::of([...$tags, 'GPSLatitudeRef' => 'S', 'GPSLongitudeRef' => 'W']))
            ->toMatchObject(['lat' => -14.5, 'lon' => -11.5, 'sideless' => false])
            ->and(PhotoFacts::of([])->sideless)
            ->toBeFalse();
    });

    it(
        'are asked for where the file names a system that nobody knows, and heights that are dropped are said',
        function (): void {
            $make = function (array $words, string $geojson): array {
                $folder = sys_get_temp_dir().'/shp'.bin2hex(random_bytes(4));
                mkdir($folder);
                file_put_contents("$folder/in.geojson", $geojson);
                (new Symfony\Component\Process\Process([
                    'ogr2ogr',
                    '-f',
                    'ESRI Shapefile',
                    "$folder/a.shp",
                    "$folder/in.geojson",
                    ...$words,
                ]))->mustRun();
                $files = [];
                foreach (glob("$folder/a.*") ?: [] as $file) {
                    $files[basename($file)] = (string) file_get_contents($file);
                }

                return $files;
            };
            $point =
                '{"type":"FeatureCollection","features":[{"type":"Feature",'
                    .'"properties":{"n":1},"geometry":{"type":"Point",'
                    .'"coordinates":[-11.5,-14.5,7]}}]}';
            $files = $make([], $point);
            $known = $this->bring($this->desk, $this->programme_, ['a.zip' => $this->zip($files)]);
            expect(($this->notes)($known))->toContain('heights')->and($known['source']['turned'])->toBeTrue();
            // As a surveying program writes a site's own system.
            $files['a.prj'] = 'LOCAL_CS["Site grid",UNIT["metre",1]]';
            $strange = $this->bring($this->desk, $this->programme_, ['a.zip' => $this->zip($files)]);
            expect($strange['source']['system'])
                ->toBeNull()
                ->and($strange['source']['given'] ?? null)
                ->toBeNull()
                ->and(($this->notes)($strange))
                ->toContain('not known');
        },
    );
});

describe('places by name', function (): void {
    beforeEach(function (): void {
        $this->area = Box::of(-12, -15, -11, -14);
        $this->at = static fn (string $of, float $lon, float $lat): array => [
            'name' => 'San Pedro',
            'of' => $of,
            'lon' => $lon,
            'lat' => $lat,
        ];
    });

    it('are not chosen where several are as good', function (): void {
        expect(
            PlaceMatch::among('San Pedro', [($this->at)('X', 10, 10), ($this->at)('Y', 20, 20)], $this->area, 0.75)
                ->found,
        )
            ->not->toBe('one')
            ->and(
                PlaceMatch::among(
                    'San Pedro',
                    [($this->at)('X', -11.5, -14.5), ($this->at)('X', -11.6, -14.6)],
                    $this->area,
                    0.85,
                )->found,
            )
            ->toBe('several');
        // A second one just under the likeness that is asked for is as good as well.
        $near = [...($this->at)('X', -11.5, -14.5), 'name' => 'San Pedros'];
        $like = PlaceMatch::among('San Pedro', [$near], $this->area, 0.5)->candidates[0]['score'];
        expect(
            PlaceMatch::among('San Pedrox', [$near, [...$near, 'lon' => -11.6]], $this->area, min(1.0, $like))->found,
        )->not->toBe('one');
    });

    it('are the nearer one where all else is equal, also with a region beside the name', function (): void {
        foreach (['San Pedro', 'San Pedro, Coast'] as $text) {
            $match = PlaceMatch::among(
                $text,
                [($this->at)('Coast', 100, 40), ($this->at)('Coast', -11.5, -14.5)],
                $this->area,
                0.85,
            );
            expect($match->found)
                ->toBe('one')
                ->and($match->candidates[0]['lon'])
                ->toBe(-11.5);
        }
    });

    it('give way to a pair that stands in one of their columns', function (): void {
        $import = ($this->csv)("place,town\n\"-14.5, -11.5\",Petrel\n\"-14.6, -11.6\",Petrel\n");
        $review = $this->decide($import, [
            'location' => ['way' => 'text', 'columns' => [0, 1]] + $import['settings']['location'],
        ])['review'];
        expect($review['placed'])->toBe(2);
    });
});

describe('into a layer that is there', function (): void {
    beforeEach(function (): void {
        $this->layer_ = $this->layer($this->programme_);
        $this->sync(
            $this->desk,
            array_map(
                fn (int $i): array => $this->add($this->layer_, [
                    'values' => ['code' => "N-$i", 'species' => 'CC', 'clutch' => 10 + $i],
                ]),
                range(1, 5),
            ),
        );
        $this->into = function (string $text, array $with = []): array {
            $import = ($this->csv)($text);
            $proposed = $this->postJson("/api/v1/imports/{$import['id']}/into/{$this->layer_->id}", [])
                ->assertOk()
                ->json();

            return $this->decide($import, [...$proposed, ...$with]);
        };
        $this->clutches = fn (): array => DB::table($this->layer_->table())
            ->where('deleted', 0)
            ->orderBy('f_code')
            ->pluck('f_clutch', 'f_code')
            ->all();
    });

    it('updates by the id that we write out, and offers it', function (): void {
        $csv = (string) preg_replace('/,11,/', ',99,', ($this->export)($this->layer_, ['format' => 'csv']), 1);
        $import = ($this->into)(substr($csv, 3));
        expect($import['settings']['mode'])
            ->toBe('update')
            ->and($import['review']['update'])
            ->toMatchArray(['added' => 0, 'changed' => 1, 'unchanged' => 4]);
        $this->land($import);
        expect(($this->clutches)())->toBe(['N-1' => 99, 'N-2' => 12, 'N-3' => 13, 'N-4' => 14, 'N-5' => 15]);
    });

    it('adds rows where a layer was chosen and nothing more was said', function (): void {
        $import = ($this->into)("lat,lon,Code,Species,Clutch\n-14.5,-11.5,N-9,CC,50\n");
        expect($import['settings'])->toMatchArray(['mode' => 'append', 'layer' => $this->layer_->id]);
        $this->land($import);
        expect(($this->clutches)())
            ->toHaveCount(6)
            ->toMatchArray(['N-9' => 50]);
    });

    it('tells a key that is empty, comes twice, or names several, and lets a person choose', function (): void {
        $text =
            "lat,lon,Code,Species,Clutch\n"
                ."-14.5,-11.5,N-1,CC,50\n"
                ."-14.5,-11.5,N-1,CC,60\n"
                ."-14.5,-11.5,,CC,70\n"
                ."-14.5,-11.5,N-2,CC,80\n"
                ."-14.5,-11.5,NEW,CC,90\n"
                ."-14.5,-11.5,NEW,CC,91\n";
        $import = ($this->into)($text, ['mode' => 'update', 'key_column' => 2]);
        expect($import['review']['update'])->toMatchArray(['changed' => 2, 'unclear' => 3]);
        $done = $this->land($import);
        expect(($this->clutches)())
            ->toMatchArray(['N-1' => 50, 'N-2' => 80, 'NEW' => 90])
            ->toHaveCount(6);
        $waiting = $this->getJson("/api/v1/imports/{$done['id']}/waiting")->json();
        expect(array_column($waiting, 'row'))
            ->toBe([3, 4, 7])
            ->and($waiting[0]['problems'][0]['code'])
            ->toBe('intake_key_twice')
            ->and($waiting[0]['problems'][0]['message'])
            ->toContain('row 2');
        // Whoever has looked at it and tries it again means it: the record changes, none is added.
        $this->postJson("/api/v1/imports/{$done['id']}/retry", ['rows' => [3]])
            ->assertOk()
            ->assertJsonPath('landed', 1);
        expect(($this->clutches)())
            ->toMatchArray(['N-1' => 60])
            ->toHaveCount(6);
        $this->postJson("/api/v1/imports/{$done['id']}/retry", ['rows' => [7]])
            ->assertOk()
            ->assertJsonPath('landed', 1);
        expect(($this->clutches)())
            ->toMatchArray(['NEW' => 91])
            ->toHaveCount(6);
        // Taken back as a whole, each record is what it was before the first of its rows.
        $this->postJson("/api/v1/imports/{$done['id']}/undo")->assertOk();
        expect(($this->clutches)())->toBe(['N-1' => 11, 'N-2' => 12, 'N-3' => 13, 'N-4' => 14, 'N-5' => 15]);
    });

    it('takes back no more than its own where somebody changed a record between two of its rows', function (): void {
        $done = $this->land(
            ($this->into)("lat,lon,Code,Species,Clutch\n-14.5,-11.5,N-1,CC,50\n-14.5,-11.5,N-1,CC,60\n", [
                'mode' => 'update',
                'key_column' => 2,
            ]),
        );
        $record = PinYard\Record\RecordId::fromBytes(
            DB::table($this->layer_->table())->where('f_code', 'N-1')->value('id'),
        )->text;
        $this->patchJson("/api/v1/layers/{$this->layer_->id}/records/$record", [
            'base' => 2,
            'values' => ['clutch' => 33],
        ])->assertOk();
        $this->postJson("/api/v1/imports/{$done['id']}/retry", ['rows' => [3]])
            ->assertOk()
            ->assertJsonPath('landed', 1);
        $this->postJson("/api/v1/imports/{$done['id']}/undo")->assertOk();
        expect(($this->clutches)()['N-1'])->toBe(33);
    });

    it('tells what was changed here since the preview, and takes the file where a person says so', function (
        array $with,
        int $clutch,
        int $waiting,
    ): void {
        $import = ($this->into)("lat,lon,Code,Species,Clutch\n-14.5,-11.5,N-1,CC,50\n-14.5,-11.5,N-2,CC,60\n", [
            'mode' => 'update',
            'key_column' => 2,
            ...$with,
        ]);
        $record = DB::table($this->layer_->table())->where('f_code', 'N-1')->first();
        $this->patchJson(
            "/api/v1/layers/{$this->layer_->id}/records/".PinYard\Record\RecordId::fromBytes($record->id)->text,
            ['base' => 1, 'values' => ['clutch' => 33]],
        )->assertOk();
        $done = $this->land($import);
        expect(($this->clutches)())
            ->toMatchArray(['N-1' => $clutch, 'N-2' => 60])
            ->and($this->getJson("/api/v1/imports/{$done['id']}/waiting")->json())
            ->toHaveCount($waiting);
    })->with([[[], 33, 1], [['conflicts' => 'take'], 50, 0]]);

    it('lets an empty cell say nothing, or take the value away, as a person chooses', function (
        string $empties,
        ?int $clutch,
    ): void {
        $this->land(
            ($this->into)("lat,lon,Code,Species,Clutch\n-14.5,-11.5,N-1,CC,\n", [
                'mode' => 'update',
                'key_column' => 2,
                'empties' => $empties,
            ]),
        );
        expect(($this->clutches)()['N-1'])->toBe($clutch);
    })->with([['leave', 11], ['clear', null]]);

    it('reads no design of another programme', function (): void {
        $other = $this->layer($this->programme(), ['title' => 'Theirs']);
        $import = ($this->csv)("lat,lon,Code\n-14.5,-11.5,N-1\n");
        $this->putJson("/api/v1/imports/{$import['id']}/settings", [
            ...$import['settings'],
            'mode' => 'append',
            'layer' => $other->id,
        ])
            ->assertUnprocessable()
            ->assertJsonPath('problems.0.code', 'intake_layer');
    });
});

it('reads a table whose quotes make no sense in linear time', function (): void {
    // 96 kB that made each line read all before it anew: every line ends within a quoted cell, though its quotes are
    // odd in number.
    $text = "a,\"b\n".str_repeat("\"x\"y,\"\n", 14_000);
    $read = static function (string $text): array {
        $stream = fopen('php://memory', 'w+b');
        fwrite($stream, $text);
        rewind($stream);
        $began = hrtime(true);
        $rows = new CsvRows($stream, ',');
        $count = iterator_count($rows->rows());

        return [$count, (hrtime(true) - $began) / 1e6];
    };
    [$count, $ms] = $read($text);
    [, $twiceMs] = $read($text.$text);
    expect($count)->toBe(14_001)->and($twiceMs)->toBeLessThan(max(200.0, 4 * $ms))->and($ms)->toBeLessThan(3_000.0);
});
