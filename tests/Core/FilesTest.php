<?php

declare(strict_types=1);

use PinYard\Design\LayerDesign;
use PinYard\Device\FileKind;
use PinYard\Device\FileType;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Sync\FileCheck;
use PinYard\Sync\Fix;

/** What files a record may bring, slot by slot; what a receiver may say. */
function filed(array $change = []): LayerDesign
{
    return LayerDesign::fromArray([
        'title' => 'T',
        'geometry' => 'point',
        'fields' => [],
        'photos' => ['allowed' => true, 'least' => 0, 'most' => 2],
        'slots' => [
            ['key' => 'tag', 'label' => 'Tag close-up', 'kind' => 'photo', 'least' => 1, 'most' => 1],
            ['key' => 'call', 'label' => 'Call', 'kind' => 'audio', 'most' => 3, 'max_bytes' => 50_000],
        ],
        ...$change,
    ]);
}

$file = static fn (?string $slot = null, string $type = 'image/jpeg', array $change = []): array => [
    ...[
        'id' => RecordId::make()->text,
        'name' => 'f',
        'type' => $type,
        'bytes' => 20_000,
        'sha256' => str_repeat('a', 64),
    ],
    ...$slot === null ? [] : ['slot' => $slot],
    ...$change,
];

it('takes files that fit their slots, and says of the others why not', function (array $files, array $codes): void {
    $check = FileCheck::of(filed(), $files, static fn (): bool => false);
    expect(array_map(static fn (Problem $p): string => $p->code, $check->problems))->toBe($codes);
})->with([
    'what is needed' => [[$file('tag')], []],
    'all kinds' => [[$file('tag'), $file(), $file(), $file('call', 'audio/mpeg'), $file('call', 'audio/ogg')], []],
    'the needed one is missing' => [[$file()], ['slot_count']],
    'two where one fits' => [[$file('tag'), $file('tag')], ['slot_count']],
    'too many photos' => [[$file('tag'), $file(), $file(), $file()], ['photos_count']],
    'a sound where a photo belongs' => [[$file('tag', 'audio/mpeg')], ['photo_type']],
    'a photo where a sound belongs' => [[$file('tag'), $file('call')], ['file_type']],
    'a kind that nobody knows' => [[$file('tag'), $file('call', 'audio/midi')], ['file_type']],
    'too large for its slot' => [[$file('tag'), $file('call', 'audio/mpeg', ['bytes' => 50_001])], ['photo_too_large']],
    'empty' => [[$file('tag', 'image/jpeg', ['bytes' => 0])], ['photo_empty']],
    'a hash that is none' => [[$file('tag', 'image/jpeg', ['sha256' => 'x'])], ['photo_sha']],
    'a slot that is not there' => [[$file('tag'), $file('moon')], ['slot_unknown']],
    'no object' => [[$file('tag'), 'photo'], ['must_be_object']],
    'an id that is none' => [[$file('tag', 'image/jpeg', ['id' => 'x'])], ['id_shape']],
]);

it('takes an id once', function () use ($file): void {
    $one = $file('tag');
    expect(FileCheck::of(filed(), [$one], static fn (): bool => true)->problems[0]->code)->toBe('photo_exists');
    $call = $file('call', 'audio/mpeg');
    expect(FileCheck::of(filed(), [$one, $call, $call], static fn (): bool => false)->problems[0]->code)->toBe(
        'photo_exists',
    );
});

it('counts what is there already, and asks for nothing that was not asked before', function () use ($file): void {
    $check = static fn (array $files, array $there): array => array_map(
        static fn (Problem $p): string => $p->code,
        FileCheck::of(filed(), $files, static fn (): bool => false, $there)->problems,
    );
    expect($check([$file()], []))
        ->toBe([])
        ->and($check([$file(), $file()], ['' => 1]))
        ->toBe(['photos_count'])
        ->and($check([$file('tag')], ['tag' => 1]))
        ->toBe(['slot_count'])
        ->and($check([$file('call', 'audio/wav')], ['call' => 2]))
        ->toBe([]);
});

it('has photos only where they are allowed, slots or not', function () use ($file): void {
    $design = filed([
        'photos' => ['allowed' => false],
        'slots' => [['key' => 'paper', 'label' => 'Paper', 'kind' => 'pdf']],
    ]);
    $codes = static fn (array $files): array => array_map(
        static fn (Problem $p): string => $p->code,
        FileCheck::of($design, $files, static fn (): bool => false)->problems,
    );
    expect($codes([]))
        ->toBe([])
        ->and($codes([$file('paper', 'application/pdf')]))
        ->toBe([])
        ->and($codes([$file()]))
        ->toBe(['photos_not_allowed']);
});

it('reads slots of a design, or says what is off', function (array $slot, array $codes): void {
    expect(refusals(fn () => filed(['slots' => [['key' => 'a', 'label' => 'A', 'kind' => 'photo', ...$slot]]])))->toBe(
        $codes,
    );
})->with([
    [[], []],
    [['kind' => 'video', 'max_bytes' => 524_288_000], []],
    [['max_bytes' => 524_288_000], ['out_of_range']],
    [['kind' => 'hologram'], ['slot_kind']],
    [['key' => 'Tag 1'], ['key_shape']],
    [['label' => ''], ['empty']],
    [['least' => 3, 'most' => 2], ['limits_upside_down']],
    [['most' => 21], ['out_of_range']],
    [['colour' => 'red'], ['word_unknown']],
    [['hint' => str_repeat('a', 301)], ['too_long']],
]);

it('reads rights of crews and the public, fix details and altitude', function (array $part, array $codes): void {
    expect(refusals(fn () => filed(['slots' => [], ...$part])))->toBe($codes);
})->with([
    [
        [
            'rights' => [
                'crew' => [],
                'crews' => [['crew' => 'Gulls', 'add' => false, 'see' => 'own', 'change' => 'all', 'delete' => 'own']],
                'public' => ['see' => false],
            ],
        ],
        [],
    ],
    [['rights' => ['crews' => [['crew' => 'A'], ['crew' => 'A']]]], ['crew_doubled']],
    [['rights' => ['crews' => [['crew' => '']]]], ['empty']],
    [['rights' => ['crews' => ['A']]], ['must_be_object']],
    [['rights' => ['crews' => [['crew' => 'A', 'change' => 'some']]]], ['whose_unknown']],
    [['rights' => ['crews' => [['crew' => 'A', 'see' => 'none']]]], ['see_unknown']],
    [['rights' => ['public' => ['see' => 'yes']]], ['must_be_yes_no']],
    [['rights' => ['public' => ['add' => true]]], ['word_unknown']],
    [['rights' => 'all'], ['must_be_object']],
    [['fix' => ['keep' => ['satellites', 'type', 'satellites']]], []],
    [['fix' => ['keep' => ['mood']]], ['fix_detail']],
    [['fix' => ['keep' => 'all']], ['must_be_list']],
    [['altitude' => ['unit' => 'ft', 'required' => true]], []],
    [['altitude' => ['unit' => 'fathoms']], ['altitude_unit']],
    [['altitude' => 'm'], ['must_be_object']],
    [['altitude' => ['required' => 'yes']], ['must_be_yes_no']],
    [['geometry' => 'cube'], ['geometry_unknown']],
]);

it('gives a crew its own rights, the others those of all', function (): void {
    $design = filed([
        'slots' => [],
        'rights' => ['crew' => ['add' => true], 'crews' => [['crew' => '7', 'add' => false]]],
    ]);
    expect($design->rightsOf('7')->add)
        ->toBeFalse()
        ->and($design->rightsOf('8')->add)
        ->toBeTrue()
        ->and($design->rightsOf(null)->add)
        ->toBeTrue();
    expect(LayerDesign::fromArray($design->toArray())->toArray())->toBe($design->toArray());
});

it('knows the types of each kind', function (FileKind $kind, int $types): void {
    expect(count($kind->types()))->toBe($types)->and($kind->usualBytes())->toBeLessThanOrEqual($kind->mostBytes());
    foreach ($kind->types() as $type) {
        expect($type->kind())->toBe($kind)->and($type->extension())->toMatch('/^[a-z0-9]{3,4}$/D');
    }
})->with([[FileKind::Photo, 3], [FileKind::Audio, 5], [FileKind::Video, 3], [FileKind::Pdf, 1]]);

it('tells a container of sound from one of pictures by what it was said to be', function (): void {
    $mp4 = "\x00\x00\x00\x20ftypisom";
    expect(FileType::M4a->fits($mp4))
        ->toBeTrue()
        ->and(FileType::Mp4->fits($mp4))
        ->toBeTrue()
        ->and(FileType::Pdf->fits($mp4))
        ->toBeFalse()
        ->and(FileType::Mp4->fits("\x00\x00\x00\x18ftypavif"))
        ->toBeFalse();
});

it('takes of a fix what makes sense, and never refuses a record for the rest', function (
    mixed $in,
    array $expected,
): void {
    $fix = Fix::read($in);
    expect([$fix->accuracy, $fix->altitude, $fix->satellites, $fix->type, $fix->at])->toBe($expected);
})->with([
    [
        [
            'accuracy' => 3,
            'altitude' => 12.5,
            'satellites' => 9,
            'type' => 'rtk_fixed',
            'at' => '2026-11-25T06:00:00.5+02:00',
        ],
        [3.0, 12.5, 9, 'rtk_fixed', '2026-11-25T04:00:00Z'],
    ],
    [
        ['accuracy' => -1, 'altitude' => 1e9, 'satellites' => 5_000, 'type' => 'magic', 'at' => 'now'],
        [null, null, null, null, null],
    ],
    [
        ['accuracy' => '3', 'altitude' => null, 'satellites' => 'x', 'type' => 3, 'at' => '2026-02-31T00:00:00'],
        [null, null, null, null, null],
    ],
    [null, [null, null, null, null, null]],
    ['good', [null, null, null, null, null]],
]);
