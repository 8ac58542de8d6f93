<?php

declare(strict_types=1);

use Opis\JsonSchema\Validator;
use PinYard\Design\Column;
use PinYard\Design\DesignChange;
use PinYard\Design\DesignReader;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Design\ValueSchema;
use PinYard\Record\ValueCheck;

function asObjects(mixed $value): mixed
{
    return json_decode((string) json_encode($value, JSON_PRESERVE_ZERO_FRACTION));
}

describe('a design document', function (): void {
    // Source: JSON Schema draft 2020-12, as opis/json-schema 2.6 reads it.
    it('is taken or refused as the vectors say, by the reader and by the published schema', function (array $case): void {
        $codes = array_values(array_unique(refusals(fn () => LayerDesign::fromArray($case['document']))));
        expect($codes)->toBe($case['codes']);

        $schema = json_decode((string) file_get_contents(__DIR__.'/../../core/Design/layer-design.schema.json'));
        $valid = (new Validator)->validate(asObjects($case['document']), $schema)->isValid();
        expect($valid)->toBe($case['schema'] ?? $case['codes'] === []);
    })->with(fn (): array => array_column(array_map(fn (array $c): array => [$c['name'], [$c]], vectors('designs')['cases']), 1, 0));

    it('comes back from its own JSON unchanged', function (): void {
        $document = vectors('designs')['cases'][1]['document'];
        $once = LayerDesign::fromArray($document)->toArray();
        expect(LayerDesign::fromArray(json_decode((string) json_encode($once), true))->toArray())->toBe($once);
    });

    it('names each place that is off by a JSON pointer', function (): void {
        try {
            LayerDesign::fromArray(['title' => 'T', 'geometry' => 'point', 'fields' => [
                ['key' => 'a', 'label' => 'A', 'kind' => 'date'],
                ['key' => 'B', 'label' => '', 'kind' => 'one_choice', 'choices' => [['code' => '', 'label' => 'x']]],
            ]]);
        } catch (PinYard\Refused $e) {
            expect(array_map(fn ($p) => $p->field, $e->problems))->toBe(['/fields/1/label', '/fields/1/key', '/fields/1/choices/0/code']);
        }
    });

    it('takes 200 fields and 5,000 choices, and no more', function (): void {
        $fields = fn (int $n): array => array_map(fn (int $i): array => ['key' => "f$i", 'label' => "F $i", 'kind' => 'short_text'], range(1, $n));
        $choices = fn (int $n): array => [['key' => 'c', 'label' => 'C', 'kind' => 'one_choice', 'choices' => array_map(fn (int $i): array => ['code' => "c$i", 'label' => "C $i"], range(1, $n))]];
        $read = fn (array $fields): array => refusals(fn () => LayerDesign::fromArray(['title' => 'T', 'geometry' => 'point', 'fields' => $fields]));
        expect($read($fields(DesignReader::MOST_FIELDS)))->toBe([])
            ->and($read($fields(DesignReader::MOST_FIELDS + 1)))->toBe(['too_many'])
            ->and($read($choices(DesignReader::MOST_CHOICES)))->toBe([])
            ->and($read($choices(DesignReader::MOST_CHOICES + 1)))->toBe(['too_many']);
    });
});

describe('the values of a record', function (): void {
    it('are judged alike by the check and by the compiled JSON Schema', function (array $case): void {
        $vectors = vectors('values');
        $design = LayerDesign::fromArray($vectors['design']);
        $values = array_merge($vectors['base'], $case['with']);

        $found = [];
        $check = ValueCheck::against($design, $values);
        foreach ($check->problems as $problem) {
            $found[$problem->field] = $problem->code;
        }
        ksort($found);
        $expected = $case['off'];
        ksort($expected);
        expect($found)->toBe($expected);

        expect(array_column(array_map(fn ($p): array => [$p->field, $p->code], $check->asks), 1, 0))->toBe($case['asks'] ?? []);

        // What depends on other fields, or on the clock, is in the rules and not in the schema.
        if (array_intersect($case['off'], ['required', 'read_only', 'above_highest', 'below_lowest']) !== [] && array_intersect(array_keys($case['off']), ['shells', 'why', 'team', 'past', 'begun']) !== []) {
            return;
        }
        $given = array_filter($values, fn ($v, $k): bool => $v !== null && $k !== 'share', ARRAY_FILTER_USE_BOTH);
        $schema = asObjects(ValueSchema::of($design));
        expect((new Validator)->validate((object) asObjects($given), $schema)->isValid())->toBe($case['off'] === []);
    })->with(fn (): array => array_column(array_map(fn (array $c): array => [$c['name'], [$c]], vectors('values')['cases']), 1, 0));

    it('come out with one entry for each field, whole numbers as integers', function (): void {
        $design = LayerDesign::fromArray(vectors('values')['design']);
        $check = ValueCheck::against($design, ['code' => 'A', 'clutch' => 12.0, 'count' => 3, 'species' => 'CC', 'seen' => '2026-05-01']);
        expect($check->values)->toMatchArray(['code' => 'A', 'note' => null, 'clutch' => 12, 'count' => 3, 'species' => 'CC', 'state' => null, 'laid' => null, 'seen' => '2026-05-01'])
            ->and($check->values)->toHaveCount(21)->not->toHaveKey('part');
        $check = ValueCheck::against($design, ['opened' => true, 'clutch' => 100, 'shells' => 40, 'at' => '2026-05-01T08:15:00.5+02:00', 'begun' => '06:15:00', 'weight' => 2, 'threats' => ['tide']]);
        expect($check->values)->toMatchArray(['share' => 40.0, 'at' => '2026-05-01T06:15:00Z', 'begun' => '06:15', 'weight' => 2.0, 'threats' => ['tide']])
            ->and(ValueCheck::against($design, ['clutch' => 100, 'shells' => 40])->values)->toMatchArray(['shells' => null, 'share' => null]);
    });

    // A first survey's usual codes: a 1 to 10 condition scale and S/M/L sizes (common practice, no source).
    it('take the codes of the trade', function (string $code, bool $fits): void {
        $design = LayerDesign::fromArray(['title' => 'T', 'geometry' => 'point', 'fields' => [
            ['key' => 'condition', 'label' => 'Condition', 'kind' => 'one_choice', 'choices' => array_map(fn (string $c): array => ['code' => $c, 'label' => "Is $c"], [...array_map(strval(...), range(1, 10)), 'S', 'M', 'L'])],
        ]]);
        expect(ValueCheck::against($design, ['condition' => $code])->problems === [])->toBe($fits);
    })->with([['1', true], ['10', true], ['0', false], ['11', false], ['M', true], ['XL', false]]);
});

describe('a design change', function (): void {
    $design = fn (array $fields): LayerDesign => LayerDesign::fromArray(['title' => 'T', 'geometry' => 'point', 'fields' => $fields]);
    $choice = fn (string ...$codes): array => ['key' => 'c', 'label' => 'C', 'kind' => 'one_choice', 'choices' => array_map(fn (string $c): array => ['code' => $c, 'label' => "L $c"], $codes)];

    it('adds columns for new fields and none for fields that went', function () use ($design): void {
        $change = DesignChange::between(
            $design([['key' => 'a', 'label' => 'A', 'kind' => 'date']]),
            $design([['key' => 'b', 'label' => 'B', 'kind' => 'whole_number']]),
            ['a' => FieldKind::Date], fn () => [],
        );
        expect(array_map(fn (Column $c): string => "$c->name $c->type", $change->newColumns))->toBe(['f_b whole'])->and($change->problems)->toBe([]);
    });

    it('refuses another kind for a key that has values, also after the field had left the design', function () use ($design): void {
        $change = DesignChange::between($design([]), $design([['key' => 'a', 'label' => 'A', 'kind' => 'short_text']]), ['a' => FieldKind::Date], fn () => []);
        expect($change->problems[0]->code)->toBe('kind_changed');
    });

    it('refuses to drop a choice that records carry, with their number', function () use ($design, $choice): void {
        $counts = fn ($field, array $codes): array => array_intersect_key(['x' => 12, 'y' => 0], array_flip($codes));
        $change = fn (array $new) => DesignChange::between($design([$choice('x', 'y', 'z')]), $design([$new]), ['c' => FieldKind::OneChoice], $counts);
        expect($change($choice('x', 'z'))->problems)->toBe([])
            ->and($change($choice('y', 'z'))->problems[0]->params)->toBe(['label' => 'L x', 'count' => 12]);
    });
});
