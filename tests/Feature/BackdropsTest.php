<?php

declare(strict_types=1);

use App\Backdrops;
use App\Maps\Picture\BackdropOnPicture;
use App\Maps\Picture\Canvas;
use Illuminate\Support\Facades\File;
use PinYard\Geo\Box;

/* Which of the backdrops that ship a programme's area is drawn on; their boxes are in public/backdrop/*.style.json. */
it('gives an area the backdrops that show something of it, also across the antimeridian', function (
    array $box,
    array $keys,
): void {
    $found = Backdrops::for(Box::of(...$box));
    expect(array_column($found, 'key'))->toBe($keys);
    foreach ($found as $backdrop) {
        expect(is_file(public_path(ltrim(strtok($backdrop['address'], '?'), '/'))))
            ->toBeTrue()
            ->and($backdrop['bytes'])
            ->toBeGreaterThan(1_000)
            ->and($backdrop['version'])
            ->toMatch('/^[0-9a-f]{8}$/');
    }
})->with([
    'around its islands' => [[-12, -15, -11, -14], ['world', 'cays']],
    'a corner of them' => [[-11.5, -14.1, -11.0, -14.0], ['world', 'cays']],
    'beside them' => [[-11.4, -14.3, -11.0, -14.0], ['world']],
    'across the antimeridian, far away' => [[170, -15, -170, -14], ['world']],
    'across the antimeridian, nearly round the earth' => [[10, -15, -11, -14], ['world', 'cays']],
]);

/* Others are added to a copy (bin/backdrop, tests/units/backdrop.test.ts), and may be any that a stranger made. */
describe('a backdrop that was added', function (): void {
    beforeEach(function (): void {
        File::ensureDirectoryExists(Backdrops::folder());
        $this->put = static function (string $key, array $style, ?array $features = null): void {
            file_put_contents(Backdrops::folder()."/$key.style.json", json_encode($style));
            file_put_contents(Backdrops::folder()."/$key.json", json_encode([
                'type' => 'FeatureCollection',
                'features' => $features ?? [[
                    'type' => 'Feature',
                    'properties' => ['class' => 'reef'],
                    'geometry' => ['type' => 'LineString', 'coordinates' => [[-11.7, -14.3], [-11.5, -14.1]]],
                ]],
            ]));
        };
        $this->keys = static fn (Box $area): array => array_column(Backdrops::for($area), 'key');
        $this->line = ['id' => 'reef-a', 'type' => 'line', 'source' => 'reef', 'paint' => ['line-color' => '#112233']];
    });
    afterEach(fn () => File::deleteDirectory(Backdrops::folder()));

    it('is told where it lies, over those that are of more, and anew when its drawing changes', function (): void {
        $isles = Box::of(-11.7, -14.3, -11.6, -14.2);
        $before = Backdrops::version();
        ($this->put)('reef', ['box' => [-11.72, -14.3, -11.5, -14.1], 'layers' => [$this->line]]);
        expect(($this->keys)($isles))->toBe(['world', 'cays', 'reef'])
            ->and(($this->keys)(Box::of(-12, -14, -11.9, -13)))->toBe(['world'])
            ->and(Backdrops::version())->not->toBe($before);
        $reef = Backdrops::for($isles)[2];
        expect($reef['address'])->toBe("/backdrop/own/reef.json?v={$reef['version']}")
            ->and($reef['style'])->toBe([
                'attribution' => null, 'box' => [-11.72, -14.3, -11.5, -14.1], 'zoom' => null,
                'layers' => [$this->line], 'labels' => [],
            ]);
        ($this->put)('reef', ['zoom' => [4, 9], 'layers' => [$this->line]]);
        // Of everywhere now, over the world that ships.
        expect(($this->keys)($isles))->toBe(['world', 'reef', 'cays'])
            ->and(Backdrops::for($isles)[1]['version'])->not->toBe($reef['version']);
    });

    it('is told to whoever is signed in, and to phones and maps with how it is drawn', function (): void {
        ($this->put)('reef', ['attribution' => 'Fjordværket', 'layers' => [$this->line]]);
        $programme = $this->programme();
        $this->actingAs($this->crew($programme));
        $answer = $this->getJson('/api/v1/backdrops')->assertOk();
        expect(array_column($answer->json(), 'key'))->toBe(['world', 'reef', 'cays'])
            ->and($answer->json('1.style.attribution'))->toBe('Fjordværket')
            ->and($answer->json('1.style.layers.0.paint.line-color'))->toBe('#112233');
        $tag = (string) $answer->headers->get('ETag');
        $this->getJson('/api/v1/backdrops', ['If-None-Match' => $tag])->assertStatus(304);
        expect($this->getJson('/api/v1/packs')->json('0.backdrops.1.style.layers'))->toBe([$this->line]);
        ($this->put)('reef', ['layers' => [[...$this->line, 'minzoom' => 5]]]);
        $this->getJson('/api/v1/backdrops', ['If-None-Match' => $tag])->assertOk();
    });

    it('leaves out layers that would leave a map empty', function (): void {
        $bad = [7, ['id' => 'x'], ['type' => 'line', 'source' => 'reef'], [...$this->line, 'source' => 'world'],
            [...$this->line, 'type' => 'raster']];
        ($this->put)('reef', ['layers' => [...$bad, $this->line], 'labels' => 'none']);
        $style = collect(Backdrops::all())->firstWhere('key', 'reef')['style'];
        expect($style['layers'])->toBe([$this->line])->and($style['labels'])->toBe([]);
    });

    it('does not replace one that ships', function (): void {
        $shipped = Backdrops::all();
        ($this->put)('cays', ['layers' => [$this->line]]);
        expect(Backdrops::all())->toBe($shipped);
    });

    it('is left out where its files are none, and stops no map', function (mixed $style, string $name): void {
        $shipped = Backdrops::all();
        file_put_contents(Backdrops::folder()."/$name.style.json", is_string($style) ? $style : json_encode($style));
        file_put_contents(Backdrops::folder()."/$name.json", '{"features":7}');
        expect(Backdrops::all())->toBe($shipped)->and(Backdrops::features($name))->toBe([]);
    })->with([
        'no JSON' => ['{"layers":', 'reef'],
        'no object' => ['7', 'reef'],
        'no layers' => [['layers' => 'none'], 'reef'],
        'a box of three' => [['layers' => [], 'box' => [1, 2, 3]], 'reef'],
        'a box of words' => [['layers' => [], 'box' => ['a', 'b', 'c', 'd']], 'reef'],
        'a box outside the world' => [['layers' => [], 'box' => [0, 0, 900, 10]], 'reef'],
        'a name with a path' => [['layers' => []], '..reef'],
    ]);

    it('is drawn on the small pictures of maps, as far as they can', function (): void {
        $isles = Box::of(-11.8, -14.33, -11.48, -14.06);
        $drawn = static function () use ($isles): string {
            $canvas = new Canvas($isles, 120, 80);
            BackdropOnPicture::draw($canvas, $isles);

            return md5($canvas->png());
        };
        $without = $drawn();
        $line = static fn (array $more): array => ['layers' => [[
            'id' => 'reef-a', 'type' => 'line', 'source' => 'reef', 'paint' => ['line-color' => '#112233'], ...$more,
        ]]];
        foreach ([[], ['filter' => ['==', ['get', 'class'], 'reef']]] as $seen) {
            ($this->put)('reef', $line($seen));
            expect($drawn())->not->toBe($without);
        }
        $unseen = [
            ['filter' => ['==', ['get', 'class'], 'wreck']], ['filter' => ['>', ['get', 'depth'], 3]],
            ['filter' => ['all']], ['minzoom' => 12], ['paint' => []], ['type' => 'circle'],
            ['paint' => ['line-color' => ['match', ['get', 'class'], 'reef', '#112233', '#000000']]],
        ];
        foreach ($unseen as $more) {
            ($this->put)('reef', $line($more));
            expect($drawn())->toBe($without);
        }
        $shapeless = ['type' => 'Feature', 'geometry' => null, 'properties' => []];
        $torn = ['type' => 'Feature', 'geometry' => ['type' => 'Polygon'], 'properties' => []];
        ($this->put)('reef', $line([]), [$shapeless, $torn, ['type' => 'x']]);
        expect($drawn())->toBe($without);
    });
});
