<?php

declare(strict_types=1);

use App\Layers\FilterSql;
use App\Layers\LayerRows;
use Illuminate\Support\Carbon;
use PinYard\Filter\Filter;
use PinYard\Record\RecordId;

/*
 * The SQL of a filter is held against tests/vectors/slices.json: a plain reading of the same rules over the same
 * records, a second opinion that shares nothing with the first but the filter tree.
 */

it('finds by SQL just what each of hundreds of rules means, in several time zones', function (): void {
    $vectors = json_decode((string) file_get_contents(__DIR__.'/../vectors/slices.json'), true);
    $programme = $this->programme($head = $this->person());
    $layer = $this->layer($programme, ['fields' => $vectors['fields']]);
    $this->sync($head, $records = array_map(fn (array $r): array => $this->add($layer, $r), $vectors['records']));
    $numbers = array_flip(array_column($records, 'record'));
    Carbon::setTestNow($vectors['now']);
    $design = $layer->design();
    foreach ($vectors['cases'] as $n => [$zone, $rule, $expected]) {
        $programme->time_zone = $zone;
        $layer->setRelation('programme', $programme);
        $found = (new FilterSql($layer, null))
            ->apply(LayerRows::live($layer), Filter::read($rule, $design))
            ->pluck('id')
            ->map(fn (string $id): int => $numbers[RecordId::fromBytes($id)->text])
            ->sort()
            ->values()
            ->all();
        expect($found)->toBe($expected, "case $n in $zone: ".json_encode($rule));
    }
    Carbon::setTestNow();
});

it('binds every value: what looks like SQL is only text', function (string $text): void {
    $programme = $this->programme($head = $this->person());
    $layer = $this->layer($programme, ['fields' => [['key' => 'code', 'label' => 'Code', 'kind' => 'short_text']]]);
    $this->sync($head, [
        $this->add($layer, ['values' => ['code' => $text]]),
        $this->add($layer, ['values' => ['code' => 'harmless']]),
    ]);
    $filter = urlencode((string) json_encode(['all' => [['field' => 'code', 'test' => 'is', 'value' => $text]]]));
    $answer = $this->actingAs($head)
        ->getJson("/api/v1/layers/{$layer->id}/records?filter=$filter")
        ->assertOk();
    expect($answer->json('total'))->toBe(1)->and($answer->json('records.0.values.code'))->toBe($text);
})->with(["' or 1=1 --", '"; drop table users; --', '\\', '%', '_______', "\u{0000}", '🐢', 'null', '?', ':id']);
