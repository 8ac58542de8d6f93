<?php

declare(strict_types=1);

use App\Designs\DesignStore;
use PinYard\Design\LayerDesign;

describe('a design that changes in mid-season', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person('Head');
        $this->field = $this->programme($this->head);
        $this->walker = $this->crew($this->field);
        $this->nests = $this->layer($this->field, [
            'fields' => ($this->first = [
                ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true],
                ['key' => 'clutch', 'label' => 'Clutch', 'kind' => 'short_text'],
                [
                    'key' => 'species',
                    'label' => 'Species',
                    'kind' => 'one_choice',
                    'choices' => [
                        ['code' => 'CC', 'label' => 'Loggerhead'],
                        ['code' => 'CM', 'label' => 'Green'],
                        ['code' => 'OLD', 'label' => 'Old name'],
                    ],
                ],
                ['key' => 'double', 'label' => 'Double', 'kind' => 'calculated', 'formula' => 'length(code) * 2'],
            ]),
        ]);
        $this->send = fn (array $values, int $design): array => $this->sync($this->walker, [
            $this->add($this->nests, ['design' => $design, 'values' => $values]),
        ])['outcomes'][0];
        $this->values = fn (): array => array_column(
            array_map(
                fn (array $r): array => [$r['name'], $r['values']],
                $this->actingAs($this->head)
                    ->getJson("/api/v1/layers/{$this->nests->id}/records")
                    ->json('records'),
            ),
            1,
            0,
        );
        $this->next = fn (array $fields): array => [
            'title' => 'Nests',
            'geometry' => 'point',
            'fields' => $fields,
            'photos' => ['allowed' => true, 'most' => 3],
        ];
        $this->review = fn (array $fields, int $base = 1) => $this->actingAs($this->head)->postJson(
            "/api/v1/layers/{$this->nests->id}/design/review",
            ['base' => $base, 'design' => ($this->next)($fields)],
        );
        $this->give = fn (array $fields, int $base = 1, array $decisions = []) => $this->actingAs($this->head)->putJson(
            "/api/v1/layers/{$this->nests->id}/design",
            ['base' => $base, 'design' => ($this->next)($fields), 'decisions' => (object) $decisions],
        );
        foreach ([['A', '104', 'CC'], ['B', 'about 90', 'OLD'], ['C', null, 'OLD']] as [$code, $clutch, $species]) {
            ($this->send)(['code' => $code, 'clutch' => $clutch, 'species' => $species], 1);
        }
        [$this->code, $this->clutch, $this->species, $this->double] = $this->first;
    });

    it('turns a text into a number where it is one, and keeps the rest', function (): void {
        $fields = [$this->code, ['kind' => 'whole_number'] + $this->clutch, $this->species, $this->double];
        expect(($this->review)($fields)->assertOk()->json('effects.0'))->toMatchArray([
            'code' => 'turned_some',
            'field' => 'clutch',
            'outcome' => 'converted',
            'count' => 2,
            'message' => '1 value becomes the new kind; 1 can’t and stays in the archive and in the history.',
        ]);
        ($this->give)($fields)->assertOk()->assertJsonPath('design_version', 2);
        expect(array_column(($this->values)(), 'clutch', 'code'))->toEqual(['C' => null, 'B' => null, 'A' => 104]);
        // Back to text: the archive is a column of its own, and the number is text again.
        ($this->give)([$this->code, $this->clutch, $this->species, $this->double], 2)->assertOk();
        expect(array_column(($this->values)(), 'clutch', 'code'))->toEqual(['C' => null, 'B' => null, 'A' => '104']);
        $record = collect($this->getJson("/api/v1/layers/{$this->nests->id}/records")->json('records'))->firstWhere(
            'name',
            'B',
        );
        expect(
            $this->getJson("/api/v1/layers/{$this->nests->id}/records/{$record['id']}/history")->json(
                '0.values.clutch',
            ),
        )->toBe('about 90');
    });

    it('takes up a version from before a field changed its kind, as far as it can be turned', function (): void {
        ($this->give)([
            $this->code,
            ['kind' => 'whole_number'] + $this->clutch,
            $this->species,
            $this->double,
        ])->assertOk();
        foreach (['A' => 104, 'B' => null] as $name => $clutch) {
            $record = collect($this->getJson("/api/v1/layers/{$this->nests->id}/records")->json('records'))->firstWhere(
                'name',
                $name,
            );
            $address = "/api/v1/layers/{$this->nests->id}/records/{$record['id']}";
            $this->patchJson($address, ['base' => 1, 'values' => ['clutch' => 7, 'species' => 'CM']])->assertOk();
            $this->postJson("$address/restore", ['version' => 1])
                ->assertOk()
                ->assertJsonPath('values.clutch', $clutch)
                ->assertJsonPath('values.species', $record['values']['species']);
        }
    });

    it('takes in what a phone sends by the older design, turned and moved', function (): void {
        $species =
            ['choices' => [['code' => 'CC', 'label' => 'Loggerhead'], ['code' => 'CM', 'label' => 'Green']]] +
            $this->species;
        ($this->give)(
            [
                $this->code,
                ['kind' => 'whole_number'] + $this->clutch,
                $species,
                ['formula' => 'clutch * 2'] + $this->double,
            ],
            1,
            ['species' => ['move' => ['OLD' => 'CM']]],
        )->assertOk();
        expect(($this->send)(['code' => 'D', 'clutch' => '77', 'species' => 'OLD'], 1)['outcome'])
            ->toBe('applied')
            ->and(($this->send)(['code' => 'E', 'clutch' => 'many', 'species' => 'CC'], 1)['outcome'])
            ->toBe('held')
            ->and(($this->send)(['code' => 'F', 'clutch' => 5, 'species' => 'CM'], 2)['outcome'])
            ->toBe('applied');
        $values = ($this->values)();
        expect($values['D'])
            ->toBe(['code' => 'D', 'clutch' => 77, 'species' => 'CM', 'double' => 154])
            ->and($values)
            ->not->toHaveKey('E')
            ->and($values['F']['double'])
            ->toBe(10)
            ->and($values['B']['species'])
            ->toBe('CM')
            ->and($values['A']['double'])
            ->toBe(208);
    });

    it('takes a choice away only when its records have somewhere to go', function (): void {
        $fields = [
            $this->code,
            $this->clutch,
            ['choices' => array_slice($this->species['choices'], 0, 2)] + $this->species,
            $this->double,
        ];
        ($this->give)($fields)
            ->assertStatus(422)
            ->assertJsonPath(
                'problems.0.message',
                '2 records carry “Old name”. Retire the choice, or say which takes its place.',
            );
        expect(($this->review)($fields)->json('effects.0'))->toMatchArray([
            'code' => 'choice_gone',
            'outcome' => 'decide',
            'count' => 2,
            'options' => ['CC', 'CM'],
            'choice' => 'OLD',
        ]);
        $cursor = $this->nests->refresh()->change_number;
        ($this->give)($fields, 1, ['species' => ['move' => ['OLD' => 'CC']]])->assertOk();
        // The phones hear of every record that changed.
        $news = $this->sync($this->walker, [], [$this->nests->id => $cursor])['news'][$this->nests->id];
        expect(array_column(array_column($news['records'], 'values'), 'species', 'code'))
            ->toEqual(['B' => 'CC', 'C' => 'CC'])
            ->and($news['design'])
            ->toBe(2);
    });

    it('asks what a newly needed field is to hold, and fills it', function (): void {
        $fields = [$this->code, ['required' => true] + $this->clutch, $this->species, $this->double];
        ($this->give)($fields)
            ->assertStatus(422)
            ->assertJsonPath('problems.0.message',
                '1 record has no “Clutch” yet. Say what they get, or leave them.');
        ($this->give)($fields, 1, ['clutch' => ['fill' => 'not counted']])->assertOk();
        expect(array_column(($this->values)(), 'clutch', 'code'))->toEqual([
            'C' => 'not counted',
            'B' => 'about 90',
            'A' => '104',
        ]);
    });

    it('keeps the values of a field that leaves, and gives them back with it', function (): void {
        $without = [$this->code, $this->species, $this->double];
        expect(($this->review)($without)->json('effects.0'))->toMatchArray([
            'code' => 'left',
            'outcome' => 'kept',
            'count' => 2,
        ]);
        ($this->give)($without)->assertOk();
        // A phone that still shows the field loses nothing either.
        ($this->send)(['code' => 'D', 'clutch' => '12', 'species' => 'CC'], 1);
        expect(($this->values)()['D'])->not->toHaveKey('clutch');
        ($this->give)($this->first, 2)->assertOk();
        expect(array_column(($this->values)(), 'clutch', 'code'))->toEqual([
            'D' => '12',
            'C' => null,
            'B' => 'about 90',
            'A' => '104',
        ]);
    });

    it('works a changed formula out for all records', function (): void {
        ($this->give)([
            $this->code,
            $this->clutch,
            $this->species,
            ['formula' => 'upper(code) ~ "!"'] + $this->double,
        ])->assertOk();
        expect(array_column(($this->values)(), 'double', 'code'))->toEqual(['C' => 'C!', 'B' => 'B!', 'A' => 'A!']);
        ($this->give)(
            [
                $this->code,
                $this->clutch,
                $this->species,
                ['formula' => 'age(date(2020, 1, 1), "days")'] + $this->double,
            ],
            2,
        )->assertOk();
        $this->travelTo('2020-01-11 12:00:00');
        expect(($this->values)()['A']['double'])->toBe(10);
    });

    it('merges what two coordinators changed, and saves over nobody', function (): void {
        ($this->give)([
            ['hint' => 'From the first'] + $this->code,
            $this->clutch,
            $this->species,
            $this->double,
        ])->assertOk();
        $mine = [$this->code, ['hint' => 'From the second'] + $this->clutch, $this->species, $this->double];
        ($this->give)($mine)->assertStatus(409);
        $review = ($this->review)($mine)
            ->assertOk()
            ->assertJsonPath('stale', true)
            ->assertJsonPath('theirs', ['Code'])
            ->assertJsonPath('clashes', [])
            ->json();
        expect(array_column($review['merged']['fields'], 'hint', 'key'))->toBe([
            'code' => 'From the first',
            'clutch' => 'From the second',
        ]);
        $this->putJson("/api/v1/layers/{$this->nests->id}/design", [
            'base' => $review['current'],
            'design' => $review['merged'],
        ])
            ->assertOk()
            ->assertJsonPath('design_version', 3);
    });

    it('does not trust what a document says of its columns', function (): void {
        ($this->give)([['generation' => 7] + $this->code, $this->clutch, $this->species, $this->double])->assertOk();
        expect(($this->values)()['A']['code'])->toBe('A');
        ($this->review)($this->first, 9)->assertStatus(422);
        ($this->review)([['key' => 'x']])->assertStatus(422);
    });

    it('makes ten changes of kind in a row without losing its way', function (): void {
        foreach (
            [
                'whole_number',
                'decimal',
                'short_text',
                'long_text',
                'whole_number',
                'short_text',
                'decimal',
                'whole_number',
                'long_text',
                'short_text',
            ] as $i => $kind
        ) {
            ($this->give)(
                [$this->code, ['kind' => $kind] + $this->clutch, $this->species, $this->double],
                $i + 1,
            )->assertOk();
        }
        expect(($this->values)()['A']['clutch'])->toBe('104');
        expect(
            DesignStore::change($this->nests->refresh(), LayerDesign::fromArray(($this->next)($this->first)))->effects,
        )->toBe([]);
    });
});
