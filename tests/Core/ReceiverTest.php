<?php

declare(strict_types=1);

use PinYard\Device\Receiver;
use PinYard\Device\Sentence;
use StandIns\Receiver\Simulator;

/*
 * Sentences of receivers. Those marked so are the examples that descriptions of the format have printed for decades
 * (from memory).
 */

describe('a sentence', function (): void {
    it('is read with its checksum', function (string $line, string $kind, ?float $lat, ?float $lon, int $at): void {
        $sentence = Sentence::read($line);
        expect($sentence?->kind)->toBe($kind);
        if ($lat !== null) {
            expect($sentence->degrees($at))
                ->toEqualWithDelta($lat, 1e-9)
                ->and($sentence->degrees($at + 2))
                ->toEqualWithDelta($lon, 1e-9);
        }
    })->with([
        // From memory: the usual GGA and RMC examples near Munich, 48° 07.038' N 11° 31.000' E.
        ['$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47', 'GGA', 48.1173, 11.516666666667, 1],
        ['$GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*6A', 'RMC', 48.1173, 11.516666666667, 2],
        ["\$GPGSA,A,3,04,05,,09,12,,,24,,,,,2.5,1.3,2.1*39\r\n", 'GSA', null, null, 0],
        ['$GPGLL,4916.45,N,12311.12,W,225444,A,*1D', 'GLL', 49.274166666667, -123.18533333333, 0],
        ['$GPGST,172814.0,0.006,0.023,0.020,273.6,0.023,0.020,0.031*6A', 'GST', null, null, 0],
    ]);

    it('is refused when anything in it was bent', function (string $line): void {
        expect(Sentence::read($line))->toBeNull();
    })->with([
        '',
        'GPGGA',
        '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*48',
        '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,',
        '$gpgga,1*00',
        str_repeat('$', 5_000),
        '$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*4',
        "\x00\xff\$GPGGA*00",
    ]);

    it('is written as it is read', function (): void {
        $line = Sentence::write('GGA', ['1', '', '4807.038', 'N']);
        expect($line)
            ->toStartWith('$GNGGA,1,,4807.038,N*')
            ->and(Sentence::read($line)?->fields)
            ->toBe(['1', '', '4807.038', 'N']);
    });

    it('knows no degrees where there are none', function (string $field, string $side): void {
        expect(Sentence::read(Sentence::write('GGA', [$field, $side]))?->degrees(0))->toBeNull();
    })->with([
        ['', 'N'],
        ['4867.0', 'N'],
        ['9107.0', 'N'],
        ['18107.0', 'E'],
        ['4807.0', 'X'],
        ['4807.0', ''],
        ['x', 'N'],
        ['-4807.0', 'N'],
    ]);
});

describe('a receiver', function (): void {
    $examples =
        "\$GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*6A\r\n"
            ."\$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47\r\n";

    it('makes a fix of its sentences', function () use ($examples): void {
        expect((new Receiver)->feed($examples))->toEqual([
            [
                'lon' => 11.0 + 31 / 60,
                'lat' => 48 + 7.038 / 60,
                'altitude' => 545.4,
                'accuracy' => 3.6,
                'satellites' => 8,
                'type' => '3d',
                'at' => '1994-03-23T12:35:19Z',
            ],
        ]);
    });

    it('does not care where the bytes are cut', function () use ($examples): void {
        $receiver = new Receiver;
        $fixes = [];
        foreach (str_split($examples.$examples, 7) as $some) {
            array_push($fixes, ...$receiver->feed($some));
        }
        expect($fixes)
            ->toHaveCount(2)
            ->and($fixes[0])
            ->toEqual((new Receiver)->feed($examples)[0]);
    });

    it('takes errors that are told before those that are guessed, and knows a flat fix', function () use (
        $examples,
    ): void {
        $receiver = new Receiver;
        $receiver->feed(
            Sentence::write('GST', ['123519', '1', '2', '1', '0', '3.0', '4.0', '9']).
                "\n".
                Sentence::write('GSA', ['A', '2', '04']).
                "\n",
        );
        expect($receiver->feed($examples)[0])->toMatchArray(['accuracy' => 5.0, 'type' => '2d', 'altitude' => null]);
    });

    it('says nothing without a fix', function (string $quality): void {
        expect(
            (new Receiver)->feed(
                Sentence::write('GGA', ['123519', '4807.038', 'N', '01131.000', 'E', $quality, '00', '', '', 'M']).
                    "\n",
            ),
        )->toBe([]);
    })->with(['0', '', '8', 'x']);

    it('tells kinds of fixes apart', function (string $quality, string $type): void {
        expect(
            (new Receiver)->feed(
                Sentence::write('GGA', [
                    '123519',
                    '4807.038',
                    'N',
                    '01131.000',
                    'E',
                    $quality,
                    '12',
                    '0.5',
                    '10',
                    'M',
                ])."\n",
            )[0]['type'],
        )->toBe($type);
    })->with([['1', '3d'], ['2', 'dgnss'], ['4', 'rtk_fixed'], ['5', 'rtk_float']]);
});

describe('the simulated receiver', function (): void {
    it('walks its way, drifts, loses its fix and finds it again, from a seed', function (): void {
        $way = [[-11.65, -14.16], [-11.64, -14.15]];
        $simulator = new Simulator($way, 3);
        $receiver = new Receiver;
        $fixes = [];
        $lost = 0;
        for ($i = 0; $i < 400; $i++) {
            $some = $receiver->feed(
                $simulator->next((new DateTimeImmutable('2026-05-01T06:00:00Z'))->modify("+$i seconds")),
            );
            $lost += $some === [] ? 1 : 0;
            array_push($fixes, ...$some);
        }
        expect($lost)
            ->toBeGreaterThan(5)
            ->and($lost)
            ->toBeLessThan(150)
            ->and($fixes[0])
            ->toMatchArray(['at' => '2026-05-01T06:00:00Z', 'type' => '3d'])
            ->and(abs($fixes[0]['lon'] + 11.65))
            ->toBeLessThan(0.0005)
            ->and(max(array_column($fixes, 'accuracy')))
            ->toBeGreaterThan(min(array_column($fixes, 'accuracy')) + 2)
            ->and((new Simulator($way, 3))->next(new DateTimeImmutable('2026-05-01T06:00:00Z')))
            ->toBe((new Simulator($way, 3))->next(new DateTimeImmutable('2026-05-01T06:00:00Z')));
    });
});
