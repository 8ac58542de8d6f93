<?php

declare(strict_types=1);

use App\Import\Gdal;
use PinYard\Refused;

uses(Tests\ImportSteps::class);

/*
 * Files that try to make GDAL read more than themselves. Each is read by one driver alone, without a network, in a
 * process with limits.
 */

beforeEach(function (): void {
    $this->folder = sys_get_temp_dir().'/gdal'.random_int(0, PHP_INT_MAX);
    mkdir($this->folder);
    $this->file = function (string $name, string $text): string {
        file_put_contents("$this->folder/$name", $text);

        return "$this->folder/$name";
    };
});

function reasonOf(callable $try): string
{
    try {
        $try();
    } catch (Refused $e) {
        return $e->problems[0]->code.': '.json_encode($e->problems[0]->params);
    }

    return 'taken';
}

it('reads a file by no other driver than the one that is allowed', function (): void {
    $secret = ($this->file)('secret.csv', "word,more\nhidden,1\n");
    $vrt = ($this->file)(
        'a.vrt',
        '<OGRVRTDataSource><OGRVRTLayer '
            ."name=\"secret\"><SrcDataSource>$secret</SrcDataSource></OGRVRTLayer></OGRVRTDataSource>",
    );
    // By itself GDAL would follow it.
    expect((string) shell_exec("ogrinfo -ro -so -al $vrt 2>&1"))->toContain('word');
    foreach (['GeoJSON', 'GPKG', 'LIBKML', 'ESRI Shapefile', 'GPX', 'FlatGeobuf'] as $driver) {
        expect(reasonOf(fn () => Gdal::tables($vrt, $driver)))->toStartWith('intake_geo_unreadable');
    }
});

it('asks nothing of a network', function (): void {
    $server = stream_socket_server('tcp://127.0.0.1:0');
    $address = 'http://'.stream_socket_get_name($server, false);
    $kml = ($this->file)(
        'a.kml',
        '<?xml version="1.0"?><kml xmlns="http://www.opengis.net/kml/2.2"><Document><name>d</name>'.
            "<NetworkLink><Link><href>$address/more.kml</href></Link></NetworkLink>".
            "<Style id=\"s\"><IconStyle><Icon><href>$address/icon.png</href></Icon></IconStyle></Style>".
            '<Placemark><name>A</name><Point><coordinates>-11.5,-14.5</coordinates></Point></Placemark></Document></kml>',
    );
    expect(Gdal::tables($kml, 'LIBKML')[0]['rows'])->toBe(1);
    $json = ($this->file)(
        'a.geojson',
        json_encode([
            'type' => 'FeatureCollection',
            'crs' => ['type' => 'link', 'properties' => ['href' => "$address/crs", 'type' => 'proj4']],
            'features' => [],
        ]),
    );
    reasonOf(fn () => Gdal::tables($json, 'GeoJSON'));
    $waiting = [$server];
    $none = null;
    expect(stream_select($waiting, $none, $none, 1))->toBe(0);
});

it('does not open what an entity of XML points to', function (): void {
    $secret = ($this->file)('secret.txt', 'hidden words');
    $gpx = ($this->file)(
        'a.gpx',
        '<?xml version="1.0"?><!DOCTYPE gpx [<!ENTITY x SYSTEM '
            ."\"file://$secret\">]><gpx version=\"1.1\"><wpt lat=\"-14.5\" lon=\"-11.5\"><name>&x;</name></wpt></gpx>",
    );
    $said = '';
    try {
        $said = Gdal::run(['ogrinfo', '-ro', '-al', $gpx], 'GPX');
    } catch (Refused $e) {
        $said = json_encode($e->problems[0]->params);
    }
    expect($said)->not->toContain('hidden words');
});

it('says what is wrong without naming folders of this machine', function (): void {
    $broken = ($this->file)('broken.geojson', '{"type":"FeatureCollection","features":[{');
    $reason = reasonOf(fn () => Gdal::tables($broken, 'GeoJSON'));
    expect($reason)
        ->toStartWith('intake_geo_unreadable')
        ->and($reason)
        ->not->toContain($this->folder)
        ->and($reason)
        ->not->toContain('\/tmp');
});

it('ends when it is told to', function (): void {
    $from = hrtime(true);
    expect(reasonOf(fn () => Gdal::run(['sleep', '30'], null, fn (): bool => true)))
        ->toStartWith('intake_stopped')
        ->and((hrtime(true) - $from) / 1e9)
        ->toBeLessThan(5.0);
});

it('lets no tool take all memory or fill the disk', function (): void {
    // 8 GB asked at once, by a tool that is at hand everywhere.
    expect(
        reasonOf(fn () => Gdal::run(['php', '-d', 'memory_limit=-1', '-r', 'str_repeat("x", 8_000_000_000);'])),
    )->toStartWith('intake_geo_unreadable');
    expect(trim(Gdal::run(['sh', '-c', 'ulimit -f'])))->not->toBe('unlimited');
});

it('never makes words of a file’s name part of a command', function (): void {
    $odd = ($this->file)('a; touch hacked; .geojson', json_encode(['type' => 'FeatureCollection', 'features' => []]));
    Gdal::tables($odd, 'GeoJSON');
    expect(is_file("$this->folder/hacked"))->toBeFalse()->and(is_file(base_path('hacked')))->toBeFalse();
});

it('knows reference systems by their numbers, and says so if it does not', function (
    string $code,
    ?string $name,
): void {
    expect(Gdal::systemName($code))->toBe($name);
})->with([
    ['EPSG:4326', 'WGS 84'],
    ['EPSG:27700', 'OSGB36 / British National Grid'],
    ['EPSG:32729', 'WGS 84 / UTM zone 29S'],
    ['EPSG:99999', null],
]);

it('turns many coordinates, and none', function (): void {
    mt_srand(3);
    $pairs = [];
    for ($i = 0; $i < 2_500; $i++) {
        $pairs[] = [mt_rand(200_000, 800_000) + 0.25, mt_rand(100_000, 9_200_000) + 0.5];
    }
    $degrees = (new Gdal)->degrees($pairs, 'EPSG:32633');
    expect($degrees)
        ->toHaveCount(2_500)
        ->and(array_filter($degrees, static fn (?array $d): bool => $d === null))
        ->toBe([]);
    // Back by GeoConvert (geographiclib-tools), a hundred of them, to the centimetre.
    $some = array_slice($degrees, 0, 100);
    $input = implode("\n", array_map(static fn (array $d): string => sprintf('%.12f %.12f', $d[1], $d[0]), $some));
    $process = new Symfony\Component\Process\Process(['GeoConvert', '-u', '-z', '33n', '-p', '3'], null, null, $input);
    foreach (explode("\n", trim($process->mustRun()->getOutput())) as $i => $line) {
        [, $east, $north] = explode(' ', $line);
        expect((float) $east)
            ->toEqualWithDelta($pairs[$i][0], 0.01)
            ->and((float) $north)
            ->toEqualWithDelta($pairs[$i][1], 0.01);
    }
    expect((new Gdal)->degrees([], 'EPSG:32633'))->toBe([]);
});
