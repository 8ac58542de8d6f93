<?php

declare(strict_types=1);

describe('planning a programme', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person('Head');
        $this->field = $this->programme($this->head);
        $this->nests = $this->layer($this->field);
        $this->actingAs($this->head);
        $this->at = "/api/v1/programmes/{$this->field->id}";
        $this->ready = fn (): array => array_column(
            $this->getJson("$this->at/ready")
                ->assertOk()
                ->json(),
            'holds',
            'code',
        );
    });

    it('ties questions to fields and tiles, and says which are open', function (): void {
        $board = $this->postJson("$this->at/boards", ['title' => 'Dawn'])
            ->assertCreated()
            ->json();
        $this->putJson("$this->at/questions", [
            [
                'text' => 'How many?',
                'fields' => [['layer' => $this->nests->id, 'key' => 'clutch']],
                'tile' => ['board' => $board['id'], 'tile' => $board['tiles'][0]['id']],
            ],
            ['text' => 'Where?', 'fields' => [['layer' => $this->nests->id, 'key' => 'species']]],
            ['text' => 'Why?'],
        ])->assertOk();
        $questions = $this->getJson("$this->at/questions")->json();
        expect(array_column($questions, 'state', 'text'))
            ->toBe(['How many?' => 'answered', 'Where?' => 'no_tile', 'Why?' => 'open'])
            ->and($questions[0]['fields'][0]['label'])
            ->toBe('Clutch')
            ->and($questions[0]['tile']['of'])
            ->toBe('Dawn');
        expect($this->getJson($this->at)->json('stages.plan'))->toMatchArray(['questions' => 3, 'open' => 1]);
        // A field that leaves the design answers nothing any more; a question keeps standing.
        $design = $this->nests->design()->toArray();
        $design['fields'] = array_values(
            array_filter($design['fields'], fn (array $f): bool => $f['key'] !== 'species'),
        );
        $this->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $design])->assertOk();
        expect(array_column($this->getJson("$this->at/questions")->json(), 'state', 'text')['Where?'])->toBe('open');
        $this->putJson("$this->at/questions", [['text' => '']])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.message', 'A question must not be empty. Write it, or remove the line.');
        expect($this->getJson("$this->at/questions")->json())->toHaveCount(3);
    });

    it('has a ready check whose lines hold one by one', function (): void {
        expect(($this->ready)())->toMatchArray([
            'layers' => true,
            'rights' => true,
            'trial' => false,
            'map' => false,
            'people' => false,
            'area' => true,
        ]);
        $this->crew($this->field);
        $this->postJson("$this->at/maps", ['layer' => $this->nests->id, 'title' => 'M'])->assertCreated();
        $trial = $this->postJson("/api/v1/layers/{$this->nests->id}/records", [
            'values' => ['code' => 'A', 'species' => 'CC'],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.5, -14.5]],
        ])->json();
        $this->deleteJson("/api/v1/layers/{$this->nests->id}/records/{$trial['id']}")->assertNoContent();
        expect(array_filter(($this->ready)(), fn (bool $holds): bool => ! $holds))->toBe([]);
        $line = collect($this->getJson("$this->at/ready")->json())->firstWhere('code', 'people');
        expect($line['message'])->toBe('1 person can go out.')->and($line['why'])->not->toBeEmpty();
    });

    it('hands all designs over as one open file, which makes the same layers again', function (): void {
        $sheet = $this->getJson("$this->at/designs.json")
            ->assertOk()
            ->assertHeader('Content-Disposition')
            ->json();
        expect($sheet['layers'])
            ->toHaveCount(1)
            ->and($sheet['layers'][0])
            ->toBe($this->nests->design()->toArray());
        $other = $this->programme($this->head);
        $made = $this->postJson("/api/v1/programmes/{$other->id}/layers", $sheet['layers'][0])
            ->assertCreated()
            ->json();
        expect($made['design'])->toBe($this->nests->design()->toArray());
    });

    it('offers starter designs that can be made as they are', function (): void {
        foreach ($this->getJson('/api/v1/starters')->assertOk()->json() as $starter) {
            $this->postJson("$this->at/layers", $starter['design'])->assertCreated();
        }
        expect($this->getJson("$this->at/layers")->json())->toHaveCount(6);
    });
});
