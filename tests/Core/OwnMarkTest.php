<?php

declare(strict_types=1);

use PinYard\Carto\OwnMark;
use PinYard\Design\MarkName;

/*
 * Pictures of one's own: what draws is kept, and nothing else. Cases of what can hide in an SVG are common practice,
 * no source.
 */

function svg(string $inside, string $attributes = 'viewBox="0 0 24 24"'): string
{
    return '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" '
        ."$attributes>$inside</svg>";
}

it('keeps shapes as they are', function (): void {
    $kept = OwnMark::read(
        '<?xml version="1.0"?><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" '
            .'"http://www.w3.org/Graphics/SVG/1.1/DTD/svg11.dtd">'.
            svg(
                '<title>Turtle</title><defs><linearGradient id="g"><stop offset="0" '
                    .'stop-color="#fff"/></linearGradient></defs><g transform="scale(2)"><path d="M0 0L5 5Z" '
                        .'fill="url(#g)" stroke-width="2"/></g>',
            ),
    );
    expect($kept->type)
        ->toBe('svg')
        ->and($kept->bytes)
        ->toContain('d="M0 0L5 5Z"')
        ->toContain('fill="url(#g)"')
        ->toContain('linearGradient')
        ->toContain('viewBox="0 0 24 24"')
        ->not->toContain('DOCTYPE');
});

it('gives a picture without a view the one of its size', function (string $attributes, string $view): void {
    expect(OwnMark::read(svg('<rect width="3" height="3"/>', $attributes))->bytes)
        ->toContain("viewBox=\"$view\"")
        ->toContain('width="96"');
})->with([['width="32" height="16"', '0 0 32 16'], ['', '0 0 24 24'], ['width="10mm" height="10mm"', '0 0 10 10']]);

it('takes out what could run, load or link', function (string $inside, string $never): void {
    $kept = OwnMark::read(svg($inside.'<circle r="3"/>'))->bytes;
    expect($kept)->toContain('circle')->not->toContain($never)->and(OwnMark::read($kept)->bytes)->toBe($kept);
})->with([
    ['<script>alert(1)</script>', 'alert'],
    ['<rect width="1" onclick="alert(1)"/>', 'onclick'],
    ['<rect width="1" ONLOAD="alert(1)"/>', 'ONLOAD'],
    ['<a xlink:href="javascript:alert(1)"><path d="M0 0"/></a>', 'javascript'],
    ['<image href="http://example.test/x.png"/>', 'example.test'],
    ['<use href="http://example.test/x.svg#y"/>', 'example.test'],
    ['<foreignObject><p xmlns="http://www.w3.org/1999/xhtml">x</p></foreignObject>', 'foreignObject'],
    ['<style>@import "http://example.test";</style>', 'import'],
    ['<rect width="1" style="background:url(http://example.test)"/>', 'style'],
    ['<rect width="1" fill="url(http://example.test#a)"/>', 'example.test'],
    ['<rect width="1" fill="URL( \'http://example.test\' )"/>', 'example.test'],
    ['<animate attributeName="href" values="javascript:alert(1)"/>', 'animate'],
    ['<set attributeName="onload" to="alert(1)"/>', 'onload'],
    ['<svg:script xmlns:svg="http://www.w3.org/2000/svg">alert(1)</svg:script>', 'alert'],
    ['<h:path xmlns:h="http://www.w3.org/1999/xhtml" d="M9"/>', 'M9'],
    ['<?xml-stylesheet href="http://example.test"?>', 'example.test'],
    ['<!-- secret -->', 'secret'],
    ['<text>words</text>', 'words'],
    ['<iframe src="http://example.test"/>', 'example.test'],
]);

it('refuses what is no picture of shapes, and says so', function (string $bytes, string $code): void {
    expect(refusals(fn () => OwnMark::read($bytes)))->toBe([$code]);
})->with([
    ['', 'mark_unreadable'],
    ['hello', 'mark_unreadable'],
    ['<svg', 'mark_unreadable'],
    ['<html><svg></svg></html>', 'mark_unreadable'],
    ["\x89PNG\r\n\x1a\nnothing", 'mark_unreadable'],
    ["\xff\xd8\xff\xe0 a photo", 'mark_unreadable'],
    [svg(''), 'mark_empty'],
    [svg('<text>A</text>'), 'mark_empty'],
    [svg(str_repeat('<path d="M0 0"/>', 20_000)), 'mark_large'],
    [
        '<!DOCTYPE svg [<!ENTITY a "aaaa"><!ENTITY b "&a;&a;">]>'.svg('<title>&b;</title><path d="M0"/>'),
        'mark_unreadable',
    ],
    [
        '<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/hostname">]>'.svg('<title>&x;</title><path d="M0"/>'),
        'mark_unreadable',
    ],
]);

it('knows heads of pegs from what is none', function (mixed $head, bool $is): void {
    expect(MarkName::is($head))->toBe($is);
})->with([
    ['disc', true],
    ['own-abcdefghij0123456789ab', true],
    ['own-short', false],
    ['own-ABCDEFGHIJ0123456789AB', false],
    ["own-abcdefghij0123456789ab\n", false],
    ['own-abcdefghij0123456789ab/../x', false],
    [null, false],
    [[], false],
    ['star', false],
]);
