<?php

declare(strict_types=1);

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->list = $this->choiceList($this->programme, [
        ['code' => 'N', 'label' => 'North'],
        ['code' => 'S', 'label' => 'South'],
        ['code' => 'W', 'label' => 'West'],
    ]);
    $field = [
        'key' => 'side',
        'label' => 'Side',
        'kind' => 'one_choice',
        'list' => $this->list->id,
        'choices' => [['code' => 'old', 'label' => 'Old']],
    ];
    $this->one = $this->layer($this->programme, ['title' => 'One', 'fields' => [$field]]);
    $this->two = $this->layer($this->programme, [
        'title' => 'Two',
        'fields' => [['kind' => 'several_choices'] + $field],
    ]);
    $this->actingAs($this->mara);
});

it('gives its choices to every field that shares it', function (): void {
    expect(array_column($this->one->design()->toArray()['fields'][0]['choices'], 'code'))->toBe(['N', 'S', 'W']);
    $list = $this->getJson("/api/v1/lists/{$this->list->id}")
        ->assertOk()
        ->json();
    expect(array_column($list['used_by'], 'title'))
        ->toBe(['One', 'Two'])
        ->and($list['version'])
        ->toBe(1);
    $choices = [...$list['choices'], ['code' => 'E', 'label' => 'East', 'colour' => '#2F5D8A']];
    $this->putJson("/api/v1/lists/{$this->list->id}", [
        'base' => 1,
        'title' => 'Sides of the isle',
        'choices' => $choices,
    ])
        ->assertOk()
        ->assertJsonPath('version', 2);
    foreach ([$this->one, $this->two] as $layer) {
        expect($layer->fresh()->design_version)
            ->toBe(2)
            ->and($layer->fresh()->design()->field('side')?->choice('E')?->colour)
            ->toBe('#2F5D8A');
    }
    // A name alone makes no new design.
    $this->putJson("/api/v1/lists/{$this->list->id}", [
        'base' => 2,
        'title' => 'Sides',
        'choices' => $choices,
    ])->assertOk();
    expect($this->one->fresh()->design_version)->toBe(2);
});

it(
    'keeps what records carry: a choice that leaves is retired, or its records are moved in every layer',
    function (): void {
        $this->sync($this->mara, [
            $this->add($this->one, ['values' => ['side' => 'W']]),
            $this->add($this->two, ['values' => ['side' => ['W', 'N']]]),
        ]);
        $fewer = array_slice($this->list->choices, 0, 2);
        $missed = $this->postJson("/api/v1/lists/{$this->list->id}/review", ['title' => 'Sides', 'choices' => $fewer])
            ->assertOk()
            ->json('missed');
        expect($missed)->toBe([['code' => 'W', 'label' => 'West', 'count' => 2, 'layers' => ['One', 'Two']]]);
        $refused = $this->putJson("/api/v1/lists/{$this->list->id}", [
            'base' => 1,
            'title' => 'Sides',
            'choices' => $fewer,
        ])
            ->assertUnprocessable()
            ->json('problems.0');
        expect($refused['message'])->toContain('One')->toContain('West');
        expect($this->list->fresh()->version)
            ->toBe(1)
            ->and($this->one->fresh()->design_version)
            ->toBe(1);
        $this->putJson("/api/v1/lists/{$this->list->id}", [
            'base' => 1,
            'title' => 'Sides',
            'choices' => $fewer,
            'moves' => ['W' => 'N'],
        ])->assertOk();
        expect($this->getJson("/api/v1/layers/{$this->one->id}/records")->json('records.0.values.side'))
            ->toBe('N')
            ->and($this->getJson("/api/v1/layers/{$this->two->id}/records")->json('records.0.values.side'))
            ->toBe(['N']);
    },
);

it('is refused with the reason', function (array $change, int $status, string $code): void {
    $this->putJson(
        "/api/v1/lists/{$this->list->id}",
        $change + ['base' => 1, 'title' => 'Sides', 'choices' => $this->list->choices],
    )
        ->assertStatus($status)
        ->assertJsonPath('problems.0.code', $code);
})->with([
    [['base' => 7], 409, 'list_stale'],
    [['title' => ' '], 422, 'empty'],
    [['choices' => []], 422, 'choices_empty'],
    [['choices' => [['code' => 'a', 'label' => 'A'], ['code' => 'A', 'label' => 'B']]], 422, 'code_doubled'],
    [['choices' => 'N, S'], 422, 'must_be_list'],
]);

it('cannot go while a field uses it, and is let go by a design of another programme', function (): void {
    $this->deleteJson("/api/v1/lists/{$this->list->id}")
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'list_used');
    $other = $this->programme($this->mara);
    $copied = $this->postJson("/api/v1/programmes/{$other->id}/layers", $this->one->design()->toArray())
        ->assertCreated()
        ->json('design.fields.0');
    expect($copied)->not->toHaveKey('list')->and($copied['choices'])->toHaveCount(3);
    $free = $this->choiceList($this->programme);
    $this->deleteJson("/api/v1/lists/{$free->id}")->assertNoContent();
});

it('is refused whole where a formula of one layer names a choice that goes', function (): void {
    $document = $this->one->design()->toArray();
    $document['fields'][] = [
        'key' => 'is_west',
        'label' => 'Is west',
        'kind' => 'calculated',
        'formula' => 'side == "W"',
    ];
    $this->putJson("/api/v1/layers/{$this->one->id}/design", ['base' => 1, 'design' => $document])->assertOk();
    $told = $this->putJson("/api/v1/lists/{$this->list->id}", [
        'base' => 1,
        'title' => 'Sides',
        'choices' => array_slice($this->list->choices, 0, 2),
    ])
        ->assertUnprocessable()
        ->json('problems.0');
    expect($told['code'])->toBe('list_layer')->and($told['message'])->toContain('One:');
    expect($this->two->fresh()->design_version)->toBe(1);
});
