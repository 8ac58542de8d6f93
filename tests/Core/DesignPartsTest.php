<?php

declare(strict_types=1);

use Opis\JsonSchema\Validator;
use PinYard\Design\LayerDesign;

/**
 * One field of a design, with what is wrong with it; where nothing is, the published schema must agree (JSON Schema
 * 2020-12, opis/json-schema 2.6).
 */
it('reads each part of a field, or says what is off', function (array $field, array $codes): void {
    $document = [
        'title' => 'T',
        'geometry' => 'point',
        'fields' => [
            ['key' => 'other', 'label' => 'Other', 'kind' => 'whole_number'],
            ['key' => 'a', 'label' => 'A', ...$field],
        ],
    ];
    expect(refusals(fn () => LayerDesign::fromArray($document)))->toBe($codes);
    if ($codes === []) {
        $schema = json_decode((string) file_get_contents(__DIR__.'/../../core/Design/layer-design.schema.json'));
        expect(
            (new Validator)->validate(json_decode((string) json_encode($document)), $schema)->isValid(),
        )->toBeTrue();
        $once = LayerDesign::fromArray($document)->toArray();
        expect(LayerDesign::fromArray($once)->toArray())->toBe($once);
        expect((new Validator)->validate(json_decode((string) json_encode($once)), $schema)->isValid())->toBeTrue();
    }
})->with([
    'a long text with its most' => [['kind' => 'long_text', 'most' => 10_000], []],
    'a long text that is too long' => [['kind' => 'long_text', 'most' => 10_001], ['out_of_range']],
    'a shape' => [['kind' => 'short_text', 'shape' => 'GH-##@*'], []],
    'a shape on a number' => [['kind' => 'decimal', 'shape' => '##'], ['word_unknown']],
    'decimal limits' => [
        [
            'kind' => 'decimal',
            'limits' => ['lowest' => 0.5, 'highest' => 9.75, 'outside' => 'ask'],
            'unit' => 'kg',
            'decimals' => 2,
        ],
        [],
    ],
    'decimal limits upside down' => [
        ['kind' => 'decimal', 'limits' => ['lowest' => 2.5, 'highest' => 0.5]],
        ['limits_upside_down'],
    ],
    'a decimal limit that is text' => [['kind' => 'decimal', 'limits' => ['lowest' => 'low']], ['limit_shape']],
    'too many decimals' => [['kind' => 'decimal', 'decimals' => 11], ['out_of_range']],
    'a unit too long' => [['kind' => 'decimal', 'unit' => str_repeat('m', 21)], ['too_long']],
    'date limits' => [['kind' => 'date', 'limits' => ['lowest' => '2026-01-01', 'highest' => 'today']], []],
    'date limits upside down' => [
        ['kind' => 'date', 'limits' => ['lowest' => '2026-05-01', 'highest' => '2026-04-30']],
        ['limits_upside_down'],
    ],
    'a date limit that is none' => [['kind' => 'date', 'limits' => ['lowest' => '2026-02-30']], ['limit_shape']],
    'time limits' => [['kind' => 'time', 'limits' => ['lowest' => '04:00', 'highest' => '10:30']], []],
    'a time limit that is none' => [['kind' => 'time', 'limits' => ['lowest' => '4 am']], ['limit_shape']],
    'moment limits' => [
        ['kind' => 'date_time', 'limits' => ['lowest' => '2026-01-01T00:00:00Z', 'highest' => 'now']],
        [],
    ],
    'limits on yes or no' => [['kind' => 'yes_no', 'limits' => ['lowest' => 0]], ['word_unknown']],
    'what is outside is not known' => [
        ['kind' => 'decimal', 'limits' => ['lowest' => 1, 'outside' => 'warn']],
        ['outside_unknown'],
    ],
    'a default that fits' => [['kind' => 'whole_number', 'default' => 3], []],
    'a default of another kind' => [['kind' => 'whole_number', 'default' => 'three'], ['not_whole']],
    'a default outside the limits' => [
        ['kind' => 'whole_number', 'limits' => ['highest' => 2], 'default' => 3],
        ['above_highest'],
    ],
    'a default of no' => [['kind' => 'yes_no', 'default' => false], []],
    'today as a default' => [['kind' => 'date', 'default' => 'today'], []],
    'now as a default of a date' => [['kind' => 'date', 'default' => 'now'], ['not_date']],
    'a default that is no choice' => [
        ['kind' => 'one_choice', 'choices' => [['code' => 'x', 'label' => 'X']], 'default' => 'y'],
        ['choice_unknown'],
    ],
    'several as a default' => [
        ['kind' => 'several_choices', 'choices' => [['code' => 'x', 'label' => 'X']], 'default' => ['x']],
        [],
    ],
    'read-only with a default' => [['kind' => 'short_text', 'read_only' => true, 'default' => 'A'], []],
    'needed, and nobody may fill it in' => [
        ['kind' => 'short_text', 'read_only' => true, 'required' => true],
        ['read_only_required'],
    ],
    'a colour and a mark' => [
        [
            'kind' => 'one_choice',
            'choices' => [['code' => 'x', 'label' => 'X', 'colour' => '#0F5C53', 'mark' => 'ring']],
        ],
        [],
    ],
    'a colour that is none' => [
        ['kind' => 'one_choice', 'choices' => [['code' => 'x', 'label' => 'X', 'colour' => 'red']]],
        ['colour_shape'],
    ],
    'a mark that is none' => [
        ['kind' => 'one_choice', 'choices' => [['code' => 'x', 'label' => 'X', 'mark' => 'star']]],
        ['mark_unknown'],
    ],
    'several without choices' => [['kind' => 'several_choices', 'choices' => []], ['choices_empty']],
    'a condition' => [['kind' => 'date', 'show_when' => 'other > 3'], []],
    'a condition that gives a number' => [['kind' => 'date', 'show_when' => 'other + 3'], ['formula_result']],
    'a condition on itself' => [['kind' => 'date', 'show_when' => 'given(a)'], ['formula_itself']],
    'a condition on nothing there' => [['kind' => 'date', 'require_when' => 'othr > 3'], ['formula_name_near']],
    'a calculated field' => [['kind' => 'calculated', 'formula' => 'other * 2', 'unit' => 'm', 'decimals' => 1], []],
    'a calculated field that is needed' => [
        ['kind' => 'calculated', 'formula' => 'other', 'required' => true],
        ['word_unknown'],
    ],
    'a calculated field without a formula' => [['kind' => 'calculated', 'formula' => ' '], ['formula_empty']],
    'a calculated field that reads itself' => [
        ['kind' => 'calculated', 'formula' => 'a + 1'],
        ['formula_itself', 'formula_name'],
    ],
    'a formula that is a number' => [['kind' => 'calculated', 'formula' => 5], ['must_be_text', 'formula_empty']],
    'a heading' => [['kind' => 'heading', 'hint' => 'Now the rest', 'show_when' => 'other > 3'], []],
    'a heading that is needed' => [['kind' => 'heading', 'required' => true], ['word_unknown']],
    'a key that is a word of formulas' => [['kind' => 'date', 'key' => 'not'], ['key_taken']],
]);

it('reads each part of a layer, or says what is off', function (array $parts, array $codes): void {
    $document = ['title' => 'T', 'geometry' => 'point', 'fields' => [], ...$parts];
    expect(refusals(fn () => LayerDesign::fromArray($document)))->toBe($codes);
})->with([
    'rights' => [['rights' => ['crew' => ['add' => false, 'see' => 'own', 'change' => 'all', 'delete' => 'own']]], []],
    'a right for whom' => [['rights' => ['crew' => ['change' => 'some']]], ['whose_unknown']],
    'accuracy' => [['fix' => ['warn_above' => 5, 'refuse_above' => 20]], []],
    'accuracy upside down' => [['fix' => ['warn_above' => 30, 'refuse_above' => 20]], ['limits_upside_down']],
    'accuracy of nothing' => [['fix' => ['warn_above' => 0]], ['out_of_range']],
    'info' => [
        ['info' => ['description' => 'D', 'tags' => ['a', ' b '], 'credits' => 'C', 'terms' => 'T', 'source' => 'S']],
        [],
    ],
    'tags that are none' => [
        ['info' => ['tags' => ['', str_repeat('x', 41), 5]]],
        ['tag_shape', 'tag_shape', 'tag_shape'],
    ],
    'info that is a text' => [['info' => 'x'], ['must_be_object']],
    'a heading as the name' => [
        ['fields' => [['key' => 'h', 'label' => 'H', 'kind' => 'heading']], 'name_field' => 'h'],
        ['name_field_unknown'],
    ],
    'formulas in a circle' => [
        [
            'fields' => [
                ['key' => 'a', 'label' => 'A', 'kind' => 'calculated', 'formula' => 'b + 1'],
                ['key' => 'b', 'label' => 'B', 'kind' => 'calculated', 'formula' => 'a + 1'],
            ],
        ],
        ['formula_circle', 'formula_name', 'formula_name'],
    ],
]);
