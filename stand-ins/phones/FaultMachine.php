<?php

declare(strict_types=1);

namespace StandIns\Phones;

use PinYard\Record\RecordId;
use Random\Randomizer;

/**
 * Many phones and the real server, with faults by a seeded die: requests and answers that are lost, batches that come
 * doubled and in another order, stores that are full when the answer is here, clocks that are wrong, uploads that are
 * cut at any byte, clocks that are set, somebody else who signs in in the phone's browser, designs that change in
 * between, many phones on one record with values, places, altitudes, visits and deletions in any order, and, where the
 * caller can, processes that are killed.
 */
final class FaultMachine
{
    /** @var array<string, int> how often each fault was done */
    public array $faults = [];

    /**
     * @var array<string, string> value (altitudes as {@see altitudeText}) to the operation that saved it: each is found
     *     again in the end, or the run has failed
     */
    public array $saved = [];

    /**
     * @var array<string, array{array<string, mixed>, array<string, mixed>}> of each change what it was, and what it
     *     made of it; the altitude as `@altitude`, the place as `@place`
     */
    public array $changes = [];

    /** @var array<string, int> of each deletion: up to which change its phone had been told of visits */
    public array $visitsKnown = [];

    public int $operations = 0;

    public int $files = 0;

    /** The version of the design that phones have; it lags behind the server's, as packs do. */
    public int $design = 1;

    private int $word = 0;

    private int $altitude = 0;

    /** @var list<string> records that a phone has deleted, so that they may be brought back */
    private array $deleted = [];

    /**
     * @param  list<Phone>  $phones
     * @param  array<string, \Closure(): void>  $upheavals  by name: a design that changes, a process that is killed
     */
    public function __construct(
        private readonly array $phones,
        private readonly int $layer,
        private readonly int $visits,
        private readonly Randomizer $dice,
        private readonly array $upheavals,
    ) {
    }

    /**
     * @param  int  $gathered  records that the first phone made before it had signal again
     * @param  (\Closure(int): void)|null  $progress
     */
    public function run(int $rounds, int $gathered = 0, ?\Closure $progress = null): void
    {
        for ($n = 0; $n < $gathered; $n++) {
            $this->add($this->phones[0]);
        }
        $names = array_keys($this->upheavals);
        for ($round = 0; $round < $rounds; $round++) {
            $phone = $this->phones[$this->dice->getInt(0, count($this->phones) - 1)];
            for ($n = $this->dice->getInt(0, 4); $n > 0; $n--) {
                $this->act($phone);
            }
            if ($names !== [] && $this->dice->getInt(1, 40) === 1) {
                $name = $names[$this->dice->getInt(0, count($names) - 1)];
                $this->upheavals[$name]();
                $this->did($name);
            }
            $this->faultyRound($phone);
            $progress?->__invoke($round);
        }
        $this->settle();
    }

    /** In the end every phone has signal and time: until nothing waits and nothing is new. */
    private function settle(): void
    {
        for ($turn = 0; $turn < 3; $turn++) {
            foreach ($this->phones as $phone) {
                $phone->line = $phone->own;
                for ($try = 0; $try < 120; $try++) {
                    $more = $phone->round();
                    $phone->sendFiles();
                    if (! $more && $phone->isEmpty()) {
                        break;
                    }
                    usleep($try < 5 ? 0 : 100_000);
                }
                if (! $phone->isEmpty()) {
                    throw new \RuntimeException(
                        "{$phone->name} cannot get rid of ".
                            count($phone->outbox).
                            ' operations and '.
                            count($phone->files).
                            ' files; refused: '.
                            implode(
                                ', ',
                                array_filter(
                                    $phone->outcomes,
                                    static fn (string $o): bool => str_starts_with($o, 'refused'),
                                ),
                            ),
                    );
                }
            }
        }
    }

    private function act(Phone $phone): void
    {
        $mine = $phone->records[$this->layer] ?? [];
        $roll = $this->dice->getInt(1, 100);
        // Those of the outbox are known to the phone too, but not yet by the version that the server gives them.
        // Mostly the latest: crews are at the same place on the same day, and get in each other's way.
        $oldest = $this->dice->getInt(0, 2) === 0 ? 0 : max(0, count($mine) - 8);
        $record = $mine === [] ? null : array_keys($mine)[$this->dice->getInt($oldest, count($mine) - 1)];
        if ($record === null || $roll <= 32) {
            $this->add($phone);
        } elseif ($roll <= 62) {
            $field = $this->dice->getInt(0, 2) === 0 ? 'note' : 'code';
            $value = $this->word();
            $files = $this->dice->getInt(0, 9) === 0 ? $this->photo() : [];
            $known = $this->ahead($phone, $record, $mine[$record]['values']);
            $this->keep(
                $phone,
                [
                    'kind' => 'change',
                    'record' => $record,
                    'base' => $mine[$record]['version'],
                    'values' => [$field => $value],
                    'was' => [$field => $known[$field] ?? null],
                ],
                [$value],
                $files,
            );
        } elseif ($roll <= 69) {
            [$was, $altitude] = [
                $this->ahead($phone, $record, ['@altitude' => $mine[$record]['altitude']])['@altitude'],
                $this->altitude(),
            ];
            $this->keep(
                $phone,
                [
                    'kind' => 'change',
                    'record' => $record,
                    'base' => $mine[$record]['version'],
                    'altitude' => $altitude,
                    'was_altitude' => $was,
                ],
                [self::altitudeText($altitude)],
            );
        } elseif ($roll <= 80) {
            $seen = $this->word();
            $this->keep(
                $phone,
                [
                    'kind' => 'visit',
                    'layer' => $this->visits,
                    'design' => 1,
                    'visited' => $record,
                    'values' => ['seen' => $seen],
                    'geometry' => $this->place(),
                ],
                [$seen],
            );
        } elseif ($roll <= 85) {
            $this->keep(
                $phone,
                [
                    'kind' => 'move',
                    'record' => $record,
                    'base' => $mine[$record]['version'],
                    'geometry' => $this->place(),
                    'was_geometry' => [
                        'type' => 'Point',
                        'coordinates' => [$mine[$record]['lon'], $mine[$record]['lat']],
                    ],
                ],
                [],
            );
        } elseif ($roll <= 95) {
            $this->deleted[] = $record;
            $this->keep(
                $phone,
                [
                    'kind' => 'delete',
                    'record' => $record,
                    'base' => $mine[$record]['version'],
                    'visits_known' => $phone->cursors[$this->visits],
                ],
                [],
            );
            $this->visitsKnown[(string) array_key_last($phone->outbox)] = $phone->cursors[$this->visits];
        } else {
            $which =
                $this->deleted === [] ? $record : $this->deleted[$this->dice->getInt(0, count($this->deleted) - 1)];
            $this->keep($phone, ['kind' => 'restore', 'record' => $which, 'base' => 1], []);
        }
    }

    private function add(Phone $phone): void
    {
        [$code, $note] = [$this->word(), $this->word()];
        $altitude = $this->dice->getInt(0, 1) === 0 ? $this->altitude() : null;
        $record = $this->keep(
            $phone,
            [
                'kind' => 'add',
                'values' => [
                    'code' => $code,
                    'note' => $note,
                    'count' => $this->dice->getInt(1, 100 - 8 * $this->design),
                ],
                'geometry' => $this->place(),
                'altitude' => $altitude,
            ],
            [$code, $note, ...$altitude === null ? [] : [self::altitudeText($altitude)]],
            $this->photos(),
        );
        // Sometimes it is changed before it has ever been sent.
        if ($this->dice->getInt(0, 5) === 0) {
            $new = $this->word();
            $this->keep(
                $phone,
                [
                    'kind' => 'change',
                    'record' => $record,
                    'base' => 1,
                    'values' => ['code' => $new],
                    'was' => ['code' => $code],
                ],
                [$new],
            );
        }
    }

    /**
     * @param  array<string, mixed>  $what
     * @param  list<string>  $words  values that must never be lost
     * @param  array<string, string>  $files
     */
    private function keep(Phone $phone, array $what, array $words, array $files = []): string
    {
        $record = $phone->keep(['layer' => $this->layer, 'design' => $this->design, ...$what], $files);
        $op = (string) array_key_last($phone->outbox);
        foreach ($words as $word) {
            $this->saved[$word] = $op;
        }
        if (in_array($what['kind'], ['change', 'move'], true)) {
            $this->changes[$op] = self::bothSides($what);
        }
        $this->operations++;
        $this->files += count($files);

        return $record;
    }

    /**
     * @param  array<string, mixed>  $what
     * @return array{array<string, mixed>, array<string, mixed>}
     */
    private static function bothSides(array $what): array
    {
        $was = $what['was'] ?? [];
        $is = $what['values'] ?? [];
        if (array_key_exists('altitude', $what)) {
            [$was['@altitude'], $is['@altitude']] = [$what['was_altitude'], $what['altitude']];
        }
        if (isset($what['geometry'])) {
            [$was['@place'], $is['@place']] = [$what['was_geometry']['coordinates'], $what['geometry']['coordinates']];
        }

        return [$was, $is];
    }

    /**
     * What the phone shows of a record: what it was told, and what of its own is on its way.
     *
     * @param  array<string, mixed>  $told
     * @return array<string, mixed>
     */
    private function ahead(Phone $phone, string $record, array $told): array
    {
        foreach ($phone->outbox as $op) {
            if ($op['record'] === $record) {
                $told = [
                    ...$told,
                    ...$op['values'],
                    ...array_key_exists('altitude', $op) ? ['@altitude' => $op['altitude']] : [],
                ];
            }
        }

        return $told;
    }

    private function faultyRound(Phone $phone): void
    {
        if ($this->dice->getInt(1, 60) === 1) {
            $phone->setClock([3_600, -3_600, 86_400, -10_800, 7_200][$this->dice->getInt(0, 4)]);
            $this->did('clock set');
        }
        $other = $phone->shared;
        if ($other !== null) {
            $phone->line = $this->dice->getInt(1, 4) === 1 ? $other->own : $phone->own;
            $phone->line === $phone->own || $this->did('somebody else signed in');
        }
        $roll = $this->dice->getInt(1, 100);
        match (true) {
            $roll <= 8 => $this->did('request lost'),
            $roll <= 20 => $this->done(
                'answer lost',
                fn () => $phone->round(timeout: $this->dice->getInt(2, 40) / 1000),
            ),
            $roll <= 28 => $this->done('store full', fn () => $phone->round(forget: true)),
            $roll <= 36 => $this->done(
                'batch doubled',
                fn () => $phone->round(bend: static fn (array $b): array => [...$b, ...$b]),
            ),
            $roll <= 44 => $this->done(
                'order mixed',
                fn () => $phone->round(bend: fn (array $b): array => $this->dice->shuffleArray($b)),
            ),
            $roll <= 50 => $this->done('half a batch', fn () => $phone->round(most: 1)),
            default => $phone->round(),
        };
        if ($phone->files !== [] && $this->dice->getInt(0, 1) === 0) {
            $cut = $this->dice->getInt(0, 2) === 0;
            $phone->sendFiles($cut ? fn (int $length): int => $this->dice->getInt(0, max(0, $length - 1)) : null);
            $this->did($cut ? 'upload cut' : 'upload whole');
        }
    }

    /** @param  \Closure(): mixed  $do */
    private function done(string $fault, \Closure $do): void
    {
        $this->did($fault);
        $do();
    }

    private function did(string $fault): void
    {
        $this->faults[$fault] = ($this->faults[$fault] ?? 0) + 1;
    }

    private function word(): string
    {
        return 'w'.++$this->word.'-'.bin2hex($this->dice->getBytes(3));
    }

    /** Metres, each only once. */
    private function altitude(): float
    {
        return ++$this->altitude / 4;
    }

    public static function altitudeText(float $metres): string
    {
        return sprintf('%.2F m', $metres);
    }

    /** @return array{type: string, coordinates: array{float, float}} */
    private function place(): array
    {
        return [
            'type' => 'Point',
            'coordinates' => [
                -11.5 + $this->dice->getInt(0, 100_000) / 1e6,
                -14.5 + $this->dice->getInt(0, 100_000) / 1e6,
            ],
        ];
    }

    /** @return array<string, string> none, one, or many at once */
    private function photos(): array
    {
        $many = [];
        for (
            $n = match (true) {
                $this->dice->getInt(0, 5) > 0 => 0,
                $this->dice->getInt(0, 2) > 0 => 1,
                default => $this->dice->getInt(2, 6),
            };
            $n > 0;
            $n--
        ) {
            $many += $this->photo();
        }

        return $many;
    }

    /** @return array<string, string> */
    private function photo(): array
    {
        $image = imagecreatetruecolor(64, 48);
        for ($i = 0; $i < 60; $i++) {
            imagefilledrectangle(
                $image,
                $this->dice->getInt(0, 63),
                $this->dice->getInt(0, 47),
                $this->dice->getInt(0, 63),
                $this->dice->getInt(0, 47),
                $this->dice->getInt(0, 0xFFFFFF),
            );
        }
        ob_start();
        imagejpeg($image, null, 90);

        return [RecordId::make()->text => (string) ob_get_clean()];
    }
}
