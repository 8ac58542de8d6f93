<?php

declare(strict_types=1);

use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Bends a sound operation in one place, by a seeded die, and tells how. */
final class Bender
{
    private const JUNK = [
        null,
        true,
        false,
        0,
        -1,
        1.5,
        9e15,
        1e308,
        '',
        ' ',
        'x',
        '0',
        "\u{FEFF}",
        '🐢',
        [],
        [[]],
        ['a' => 1],
        [null, null],
    ];

    public function __construct(private readonly Randomizer $dice)
    {
    }

    public function bend(array $operation): mixed
    {
        $roll = $this->dice->getInt(1, 20);
        if ($roll === 1) {
            return $this->junk();
        }
        if ($roll <= 4) {
            unset($operation[$this->key($operation)]);

            return $operation;
        }
        if ($roll <= 10) {
            $operation[$this->key($operation)] = $this->junk();

            return $operation;
        }
        if ($roll <= 15) {
            $operation['values'][
                $this->key(['code' => 1, 'clutch' => 1, 'species' => 1, 'laid_on' => 1, 'what' => 1])
            ] = $this->junk();

            return $operation;
        }
        if ($roll <= 17) {
            $operation['geometry'] = [
                'type' => $this->dice->getInt(0, 2) ? 'Point' : $this->junk(),
                'coordinates' => [$this->junk(), $this->junk()],
            ];

            return $operation;
        }
        $operation['photos'] = [
            [
                'id' => RecordId::make()->text,
                'name' => 'x',
                'type' => 'image/jpeg',
                'bytes' => 5,
                'sha256' => str_repeat('a', 64),
            ],
        ];
        $operation['photos'][0][$this->key($operation['photos'][0])] = $this->junk();

        return $operation;
    }

    private function key(array $of): string|int
    {
        $keys = array_keys($of);

        return $keys[$this->dice->getInt(0, count($keys) - 1)];
    }

    private function junk(): mixed
    {
        return self::JUNK[$this->dice->getInt(0, count(self::JUNK) - 1)];
    }
}

it(
    'answers ten thousand bent operations one by one, never with a fault, and sound ones always land',
    function (): void {
        $seed = 5;
        $bender = new Bender(new Randomizer(new Mt19937($seed)));
        $programme = $this->programme();
        $phone = $this->crew($programme);
        $layer = $this->layer($programme);
        $applied = 0;
        $sound = 0;
        for ($batch = 0; $batch < 50; $batch++) {
            $operations = [];
            for ($i = 0; $i < 200; $i++) {
                $operations[] = $bender->bend($this->add($layer));
            }
            $good = $this->add($layer);
            $operations[] = $good;
            $outcomes = $this->sync($phone, $operations)['outcomes'];
            expect($outcomes)->toHaveCount(201, "seed $seed, batch $batch");
            foreach ($outcomes as $i => $outcome) {
                $isApplied = $outcome['outcome'] === 'applied';
                $applied += $isApplied ? 1 : 0;
                if (! $isApplied) {
                    expect($outcome['outcome'])->toBe('refused')->and($outcome['problems'])->not->toBeEmpty();
                    expect($outcome['problems'][0]['message'])->not->toStartWith(
                        'problem.',
                        "seed $seed, batch $batch, operation $i",
                    );
                }
            }
            $sound += end($outcomes)['outcome'] === 'applied' ? 1 : 0;
        }
        expect($sound)
            ->toBe(50)
            ->and(DB::table($layer->table())->count())
            ->toBe($applied)
            ->and(DB::table('record_history')->where('layer_id', $layer->id)->count())
            ->toBe($applied)
            ->and($layer->refresh()->change_number)
            ->toBe($applied);
    },
);

it('answers ten thousand bent changes the same way, and leaves no gap in any history', function (): void {
    $seed = 11;
    $dice = new Randomizer(new Mt19937($seed));
    $bender = new Bender($dice);
    $programme = $this->programme();
    $phones = [$this->crew($programme), $this->crew($programme)];
    $layer = $this->layer($programme, ['rights' => ['crew' => ['change' => 'all', 'delete' => 'all']]]);
    $records = array_map(fn (): array => $this->add($layer), range(1, 20));
    $this->sync($phones[0], $records);
    $outcomes = ['applied' => 0, 'merged' => 0, 'clash' => 0, 'held' => 0, 'refused' => 0];
    for ($batch = 0; $batch < 50; $batch++) {
        $operations = [];
        for ($i = 0; $i < 200; $i++) {
            $values = ['code' => "C-{$dice->getInt(1, 9)}", 'clutch' => $dice->getInt(1, 20)];
            $was = ['code' => "C-{$dice->getInt(1, 9)}", 'clutch' => $dice->getInt(1, 20)];
            $change = $this->add($layer, [
                'kind' => ['change', 'change', 'change', 'move', 'delete', 'restore'][$dice->getInt(0, 5)],
                'record' => $records[$dice->getInt(0, 19)]['record'],
                'base' => $dice->getInt(1, 4),
                'values' => $values,
                'was' => $was,
                'geometry' => $dice->getInt(0, 1)
                    ? null
                    : ['type' => 'Point', 'coordinates' => [-11.5 + $dice->getInt(0, 9) / 100, -14.5]],
            ]);
            $operations[] = $dice->getInt(0, 2) === 0 ? $change : $bender->bend($change);
        }
        foreach ($this->sync($phones[$batch % 2], $operations)['outcomes'] as $i => $outcome) {
            $outcomes[$outcome['outcome']]++;
            if ($outcome['outcome'] === 'refused') {
                expect($outcome['problems'][0]['message'])->not->toStartWith(
                    'problem.',
                    "seed $seed, batch $batch, operation $i",
                );
            }
        }
    }
    expect(array_sum($outcomes))
        ->toBe(10_000)
        ->and(min($outcomes['applied'] + $outcomes['merged'], $outcomes['clash'], $outcomes['refused']))
        ->toBeGreaterThan(100)
        ->and(DB::table('disputes')->where('layer_id', $layer->id)->count())
        ->toBe($outcomes['clash'] + $outcomes['held']);
    foreach (DB::table($layer->table())->get() as $row) {
        $versions = DB::table('record_history')
            ->where('layer_id', $layer->id)
            ->where('record_id', $row->id)
            ->orderBy('version')
            ->pluck('version')
            ->all();
        expect($versions)->toBe(range(1, $row->version));
    }
});
