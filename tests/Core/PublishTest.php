<?php

declare(strict_types=1);

use PinYard\Board\BoardContext;
use PinYard\Board\BoardPlan;
use PinYard\Carto\Look;
use PinYard\Carto\Peg;
use PinYard\Carto\Style\StyleLayers;
use PinYard\Design\LayerDesign;
use PinYard\Device\FileType;

$design = fn (): LayerDesign => LayerDesign::fromArray(vectors('values')['design']);

describe('a look', function () use ($design): void {
    it('first takes the first choice field, and tells every class by shape and colour', function () use (
        $design,
    ): void {
        $look = Look::suggest($design());
        expect($look->fields())->toBe(['species']);
        $marks = array_map(fn (int $i): Peg => Peg::nth($i), range(0, 11));
        foreach (range(0, 10) as $i) {
            expect($marks[$i]->head)
                ->not->toBe($marks[$i + 1]->head)
                ->and($marks[$i]->colour)
                ->not->toBe($marks[$i + 1]->colour);
        }
        expect(array_unique(array_map(fn (Peg $p): string => $p->image(), $marks)))->toHaveCount(12);
    });

    it('has a legend that adds up, with a line for records without a value', function () use ($design): void {
        $legend = Look::suggest($design())->legend(['CC' => 5, '' => 2, 'gone' => 1]);
        expect(array_sum(array_column($legend, 'count')))
            ->toBe(8)
            ->and(array_column($legend, 'label'))
            ->toBe(['Loggerhead', 'Green', null])
            ->and(end($legend)['count'])
            ->toBe(3);
    });

    it('keeps chosen pegs and gives new choices the next', function () use ($design): void {
        $look = Look::read(
            [
                'kind' => 'category',
                'field' => 'species',
                'classes' => [['code' => 'CC', 'head' => 'cross', 'colour' => '#112233']],
            ],
            $design(),
        );
        expect($look->marks->classes['CC']->image())
            ->toBe('peg-cross-112233')
            ->and($look->marks->classes['CM']->head)
            ->toBe(Peg::nth(1)->head)
            ->and(Look::read($look->toArray(), $design())->toArray())
            ->toBe($look->toArray());
    });

    it('is refused where it does not fit', function (mixed $in, string $code) use ($design): void {
        expect(refusals(fn () => Look::read($in, $design())))->toBe([$code]);
    })->with([
        ['x', 'must_be_object'],
        [['kind' => 'category', 'field' => 'note'], 'look_field'],
        [['kind' => 'magic'], 'look_field'],
        [['kind' => 'single', 'peg' => ['head' => 'star', 'colour' => '#112233']], 'peg_head'],
        [['kind' => 'single', 'peg' => ['head' => 'disc', 'colour' => 'red; }']], 'peg_colour'],
    ]);

    it('becomes style layers that draw a picture for each code', function () use ($design): void {
        [$dots, $pegs] = StyleLayers::of(Look::suggest($design()), 'nests');
        expect($dots['maxzoom'])
            ->toBe($pegs['minzoom'])
            ->and($pegs['layout']['icon-image'])
            ->toContain('CC', 'CM', 'peg-diamond-0F5C53')
            ->and(StyleLayers::of(Look::read(['kind' => 'single'], $design()), 'n')[1]['layout']['icon-image'])
            ->toBe('peg-diamond-0F5C53');
    });
});

describe('a board', function () use ($design): void {
    $tile = fn (array $change = []): array => array_replace(
        [
            'id' => 'a',
            'kind' => 'number',
            'title' => 'T',
            'layer' => 1,
            'slice' => null,
            'field' => null,
            'width' => 3,
            'height' => 2,
        ],
        $change,
    );

    it('is read or refused', function (array $tiles, array $codes) use ($design): void {
        expect(
            refusals(fn () => BoardPlan::read($tiles, new BoardContext([1 => $design()], [5 => 1, 6 => 2]))),
        )->toBe($codes);
    })->with([
        [[$tile()], []],
        [[$tile(['slice' => 5])], []],
        [[$tile(['kind' => 'breakdown', 'by' => ['field' => 'species']])], []],
        [[$tile(['kind' => 'breakdown', 'by' => ['field' => 'gone']])], ['field_unknown']],
        [[$tile(['kind' => 'pie'])], ['tile_kind']],
        [[$tile(['layer' => 2])], ['layer_unknown']],
        [[$tile(['slice' => 6])], ['slice_unknown']],
        [[$tile(['title' => ' '])], ['empty']],
        [[$tile(), $tile()], ['tile_doubled']],
        [[$tile(['id' => '<b>'])], ['id_shape']],
        [[$tile(['kind' => 'x']), $tile(['id' => 'b', 'layer' => 9])], ['tile_kind', 'layer_unknown']],
    ]);

    it('keeps tiles within twelve columns', function () use ($design, $tile): void {
        expect(
            BoardPlan::read(
                [$tile(['width' => 99, 'height' => -4])],
                new BoardContext([1 => $design()]),
            )->tiles[0]->frame,
        )
            ->width->toBe(12)
            ->height->toBe(1);
    });
});

// Source: the first bytes as JPEG (ITU-T T.81, B.1.1.3), PNG (W3C, 5.2) and WebP (RFC 9649, section 2.4) define them.
it('tells files by their first bytes', function (string $bytes, ?FileType $type): void {
    expect(FileType::fromBytes($bytes))->toBe($type);
})->with([
    ["\xFF\xD8\xFF\xE0aaaaaaaa", FileType::Jpeg],
    ["\x89PNG\r\n\x1A\naaaa", FileType::Png],
    ["RIFF\x10\x00\x00\x00WEBP", FileType::Webp],
    ["RIFF\x10\x00\x00\x00WAVE", FileType::Wav],
    ['GIF89aaaaaaa', null],
    ['%PDF-1.7', FileType::Pdf],
    ["\x00\x00\x00\x20ftypisom", FileType::M4a],
    ["\x00\x00\x00\x14ftypqt  ", FileType::Mov],
    ['OggS000000000', FileType::Ogg],
    ["\x1A\x45\xDF\xA3aaaaaaaa", FileType::WebmAudio],
    ['ID3aaaaaaaaa', FileType::Mp3],
    ["\xFF\xFBaaaaaaaaaa", FileType::Mp3],
    ["\x00\x00\x00\x18ftypheic", null],
    ['<?php echo', null],
    ['', null],
]);
