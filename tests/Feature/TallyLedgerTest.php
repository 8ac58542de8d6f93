<?php

declare(strict_types=1);

use App\Maps\Tallies\AreaTallies;
use App\Maps\Tallies\MembersFile;
use App\Models\Layer;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;
use PinYard\Carto\Tally;
use PinYard\Design\LayerDesign;

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $this->sectors = $this->layer($this->field, [
        'title' => 'Sectors',
        'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    mt_srand(77);
    $this->at = static fn (): array => [
        'type' => 'Point',
        'coordinates' => [-12 + mt_rand(0, 10_000) / 10_000, -15 + mt_rand(0, 10_000) / 10_000],
    ];
    $areas = [];
    for ($i = 0; $i < 12; $i++) {
        [$w, $s, $side] = [-12 + mt_rand(0, 700) / 1_000, -15 + mt_rand(0, 700) / 1_000, mt_rand(50, 400) / 1_000];
        $areas[] = $this->add($this->sectors, [
            'values' => ['name' => "S$i"],
            'geometry' => [
                'type' => 'Polygon',
                'coordinates' => [
                    [[$w, $s], [$w + $side, $s], [$w + $side, $s + $side], [$w, $s + $side], [$w, $s]],
                ],
            ],
            'fix' => null,
        ]);
    }
    $this->sync($this->head, $areas);
    $this->slice = fn (string $name, array $condition) => $this->nests->slices()->create([
        'name' => $name,
        'filter' => ['all' => [$condition]],
    ]);
    /** What is told of each area, by the ledger or by going through all. */
    $this->told = function (Tally $tally, $slice, $share, bool $ledger, ?Viewer $viewer = null): array {
        config(['app.tally_ledger_from' => $ledger ? 0 : 1_000_000]);
        // What was kept of the answer itself is not asked.
        Illuminate\Support\Facades\File::deleteDirectory(storage_path('app/kept/tallies'));
        $all = (new AreaTallies(
            $tally,
            Layer::query()->with('programme')->findOrFail($this->sectors->id),
            Layer::query()->with('programme')->findOrFail($this->nests->id),
            $slice,
            $share,
            $viewer ?? Viewer::person($this->head),
        ))->all();

        return array_map(static fn (array $s): array => $s[0]->toArray(), $all);
    };
    $this->read = fn (array $of): Tally => Tally::read(
        ['layer' => $this->nests->id] + $of,
        $this->sectors->design(),
        fn (): LayerDesign => $this->nests->design(),
    );
});

it('says after every change what going through all says', function (string $measure): void {
    $slice = ($this->slice)('Large', ['field' => 'clutch', 'test' => 'at_least', 'value' => 20]);
    $share = ($this->slice)('Green', ['field' => 'species', 'test' => 'is', 'value' => 'CM']);
    $tally = ($this->read)([
        'measure' => $measure,
        'field' => $measure === 'share' ? null : 'clutch',
        'slice' => $slice->id,
        'share' => $share->id,
    ]);
    $values = static fn (): array => array_filter([
        'code' => 'N'.mt_rand(),
        'clutch' => [null, mt_rand(1, 25), mt_rand(1, 200)][mt_rand(0, 2)],
        'species' => ['CC', 'CM'][mt_rand(0, 1)],
    ], is_scalar(...));
    $there = [];
    for ($round = 0; $round < 6; $round++) {
        // Now and then what has changed is written into the file.
        config(['app.tally_ledger_beside' => $round % 3 === 2 ? 20_000 : 70]);
        $ops = [];
        for ($i = 0; $i < 60; $i++) {
            $known = $there === [] || mt_rand(0, 2) === 0 ? null : array_rand($there);
            if ($known === null) {
                $ops[] = $op = $this->add($this->nests, ['values' => $values(), 'geometry' => ($this->at)()]);
                $there[$op['record']] = true;
            } else {
                // Changed, moved, or gone for good.
                $kind = mt_rand(0, 3);
                if ($kind === 3) {
                    $ops[] = $this->add($this->nests, ['kind' => 'delete', 'record' => $known, 'values' => [],
                        'geometry' => null, 'base' => 1]);
                } else {
                    $ops[] = $this->changeOf($this->nests, $known, $values(), [], [
                        'geometry' => $kind === 0 ? null : ($this->at)(),
                    ]);
                }
                unset($there[$known]);
            }
        }
        $this->sync($this->head, $ops);
        expect(($this->told)($tally, $slice, $share, true))->toBe(($this->told)($tally, $slice, $share, false));
    }
    expect(array_sum(array_column(($this->told)($tally, $slice, $share, true), 0)))->toBeGreaterThan(30);
})->with(['sum', 'mean', 'least', 'most', 'share']);

it('belongs to one way of seeing: own records, all, those behind a link', function (): void {
    $this->nests = $this->layer($this->field, [
        'title' => 'Dens',
        'rights' => ['crew' => ['add' => true, 'see' => 'own'], 'public' => ['see' => false]],
    ]);
    [$one, $two] = [$this->crew($this->field), $this->crew($this->field)];
    $tally = ($this->read)(['measure' => 'count']);
    $sector = $this->sectors->refresh();
    $spot = DB::table($sector->table())->first(['lon', 'lat']);
    $den = fn (): array => $this->add($this->nests, [
        'geometry' => ['type' => 'Point', 'coordinates' => [$spot->lon, $spot->lat]],
    ]);
    $most = fn (Viewer $viewer): int => max([
        0,
        ...array_column(($this->told)($tally, null, null, true, $viewer), 0),
    ]);
    foreach ([1, 2] as $times) {
        $this->sync($one, [$den()]);
        $this->sync($two, [$den(), $den()]);
        expect($most(Viewer::person($one)))->toBe($times)
            ->and($most(Viewer::person($two)))->toBe(2 * $times)
            ->and($most(Viewer::person($this->head)))->toBe(3 * $times)
            ->and($most(Viewer::link($this->mapOf($this->sectors, [], App\Models\Audience::Link, 'M'))))->toBe(0);
    }
});

it('is made again where its file was lost, cut or is of another shape', function (): void {
    $tally = ($this->read)(['measure' => 'mean', 'field' => 'clutch']);
    $this->sync($this->head, array_map(
        fn (int $i): array => $this->add($this->nests, [
            'values' => ['code' => "N$i", 'clutch' => $i, 'species' => 'CC'],
            'geometry' => ($this->at)(),
        ]),
        range(1, 50),
    ));
    $wanted = ($this->told)($tally, null, null, false);
    expect(($this->told)($tally, null, null, true))->toBe($wanted);
    $files = glob(storage_path('app/kept/ledgers/*/*')) ?: [];
    expect($files)->not->toBeEmpty();
    foreach ([
        static fn (string $file) => unlink($file),
        static fn (string $file) => file_put_contents($file, ''),
        static fn (string $file) => file_put_contents($file, substr((string) file_get_contents($file), 0, 100)),
        static fn (string $file) => file_put_contents($file, substr((string) file_get_contents($file), 0, -1)),
        static fn (string $file) => file_put_contents($file, serialize(['states' => []])),
    ] as $break) {
        foreach (glob(storage_path('app/kept/ledgers/*/*')) ?: [] as $file) {
            $break($file);
        }
        expect(($this->told)($tally, null, null, true))->toBe($wanted);
    }
});

it('finds each record in its file, in several areas or in none', function (): void {
    $path = sys_get_temp_dir().'/members-'.bin2hex(random_bytes(6));
    $file = new MembersFile;
    $put = [];
    for ($i = 0; $i < 3_000; $i++) {
        $id = random_bytes(16);
        $put[$id] = [$i % 7 === 0 ? [$i, $i + 1] : [$i], $i % 3 === 0 ? null : (float) ($i / 7), $i % 2 === 0];
        foreach ($put[$id][0] as $area) {
            $file->put($id, $area, $put[$id][1], $put[$id][2]);
        }
    }
    $file->write($path);
    $read = MembersFile::open($path);
    foreach ($put as $id => $wanted) {
        expect($read?->find((string) $id))->toBe($wanted);
    }
    expect($read?->find(random_bytes(16)))->toBe([[], null, false]);

    // Some leave it, and bring something else in the next.
    $gone = array_map(strval(...), array_slice(array_keys($put), 0, 100));
    $next = $read?->without($gone);
    $next?->put($gone[0], 77, 1.5, true);
    $next?->write("$path.next");
    $read = MembersFile::open("$path.next");
    foreach ($put as $id => $wanted) {
        $id = (string) $id;
        expect($read?->find($id))->toBe(match (true) {
            $id === $gone[0] => [[77], 1.5, true],
            in_array($id, $gone, true) => [[], null, false],
            default => $wanted,
        });
    }

    file_put_contents($path, substr((string) file_get_contents($path), 0, -1));
    expect(MembersFile::open($path))->toBeNull();
    unlink("$path.next");
    unlink($path);
    expect(MembersFile::open($path))->toBeNull();
});
