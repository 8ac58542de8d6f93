<?php

declare(strict_types=1);

use App\Layers\LayerRows;
use App\Layers\ToldColumns;
use App\Models\Layer;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use PinYard\Audience\Blur;
use PinYard\Audience\Rule;
use PinYard\Geo\Box;
use PinYard\Geo\ZOrder;

/*
 * What blurred places are made of is kept beside each record. Where they are told is worked out here once more, in PHP:
 * whoever knows where a record was told to be yesterday learns nothing by an update.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->nests = $this->layer($this->programme($this->head));
    $this->places = [
        [-11.512, -14.503], [179.9999, 14.2], [180.0, -14.503], [-180.0, 3.0], [12.0, 85.0511], [13.0, 88.5],
        [14.0, -89.9], [15.0, 78.2334], [0.0, 0.0],
    ];
    for ($i = 0; $i < 30; $i++) {
        $this->places[] = [random_int(-18_000, 18_000) / 100, random_int(-8_900, 8_900) / 100];
    }
    $this->sync($this->head, array_map(fn (array $at): array => $this->add($this->nests, [
        'geometry' => ['type' => 'Point', 'coordinates' => $at],
    ]), $this->places));
    $this->nests->refresh()->update(['seen_by' => ['link' => Rule::read(
        ['rows' => 'all', 'place' => 'cell', 'metres' => 500, 'fields' => null, 'photos' => false],
        $this->nests->design(),
        [],
    )->toStored()]]);
    $this->told = fn (?Layer $layer = null): array => VisibleRecords::of(
        Viewer::anyone(),
        $layer ?? Layer::query()->with('programme')->findOrFail($this->nests->id),
    )->rows()->get(['id', 'lon', 'lat', 'z'])
        ->mapWithKeys(static fn (stdClass $r): array => [bin2hex($r->id) => [$r->lon, $r->lat, $r->z]])
        ->sortKeys()->all();
});

it('tells each record where the published rule puts it', function (): void {
    $key = hash_hkdf('sha256', (string) config('app.key'), 16, "places of layer {$this->nests->id}");
    $blur = Blur::of(500);
    $told = ($this->told)();
    $rows = LayerRows::live($this->nests)->get(['id', 'lon', 'lat']);
    expect($rows)->toHaveCount(count($this->places))->and($told)->toHaveCount(count($this->places));
    foreach ($rows as $row) {
        [$x, $y] = ZOrder::steps($row->lon, $row->lat);
        $bits = $blur->bitsAt($y);
        $cells = 2 ** (ZOrder::BITS - $bits);
        $hash = crc32(md5($key.$row->id));
        [$lon, $lat] = $told[bin2hex($row->id)];
        $across = ($x >> $bits) + (($hash & 0xFFFF) + 0.5) / 65_536;
        $down = ($y >> $bits) + (($hash >> 16) + 0.5) / 65_536;
        expect($lon)->toEqualWithDelta($across * 360 / $cells - 180, 1e-9)
            ->and($lat)->toEqualWithDelta(rad2deg(atan(sinh(M_PI - 2 * M_PI * $down / $cells))), 1e-9);
    }
});

it('tells them there also after an update, of a past day, and in a box around each', function (): void {
    $told = ($this->told)();
    Schema::table($this->nests->table(), static fn ($table) => $table->dropColumn(
        [ToldColumns::HASH, ToldColumns::DOWN],
    ));
    $update = require database_path('migrations/2026_12_14_000042_told_columns.php');
    $update->up();
    // A second time it finds nothing to do.
    $update->up();
    expect(($this->told)())->toBe($told);

    $past = Layer::query()->with('programme')->findOrFail($this->nests->id);
    DB::statement('drop temporary table if exists stood_test');
    DB::statement("create temporary table stood_test as select * from {$this->nests->table()}");
    $past->standOn('2026-01-01', '2026-01-02 00:00:00', static fn (): string => 'stood_test');
    foreach (($this->told)($past) as $id => [$lon, $lat, $z]) {
        expect($lon)->toEqualWithDelta($told[$id][0], 1e-9)->and($lat)->toEqualWithDelta($told[$id][1], 1e-9)
            ->and($z)->toBe($told[$id][2]);
    }

    $seen = VisibleRecords::of(Viewer::anyone(), Layer::query()->with('programme')->findOrFail($this->nests->id));
    foreach ($told as $id => [$lon, $lat]) {
        $in = static fn (float $s): array => $seen->rowsIn(Box::of(
            max(-180, $lon - $s), max(-90, $lat - $s), min(180, $lon + $s), min(90, $lat + $s),
        ))->pluck('id')->map(bin2hex(...))->all();
        expect($in(1e-7))->toContain($id)->and($in(0.3))->toContain($id)
            ->and($in(0.3))->toEqualCanonicalizing(array_keys(array_filter($told, static fn (array $t): bool => abs(
                $t[0] - $lon,
            ) <= 0.3 && abs($t[1] - $lat) <= 0.3)));
    }
});

it('gives neither of them to whoever reads all columns', function (): void {
    expect(array_keys((array) LayerRows::live($this->nests)->first()))
        ->not->toContain(ToldColumns::HASH, ToldColumns::DOWN)
        ->and(Schema::getColumnListing($this->nests->table()))->toContain(ToldColumns::HASH, ToldColumns::DOWN);
});
