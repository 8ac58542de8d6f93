<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Refused;

/**
 * A picture of one's own for the head of a peg: an SVG that is nothing but shapes, or a PNG. Of an SVG only elements
 * and attributes that draw are kept, by a list of those allowed, so nothing in it can run, load or link.
 */
final readonly class OwnMark
{
    public const MOST_BYTES = 204_800;

    /** Pixels of a PNG on its longer side. */
    public const MOST_PIXELS = 1_024;

    private const ELEMENTS = [
        'svg',
        'g',
        'path',
        'circle',
        'ellipse',
        'rect',
        'line',
        'polyline',
        'polygon',
        'title',
        'desc',
        'defs',
        'lineargradient',
        'radialgradient',
        'stop',
        'clippath',
    ];

    private const ATTRIBUTES = [
        'viewbox',
        'width',
        'height',
        'd',
        'cx',
        'cy',
        'r',
        'rx',
        'ry',
        'x',
        'y',
        'x1',
        'y1',
        'x2',
        'y2',
        'fx',
        'fy',
        'points',
        'transform',
        'id',
        'offset',
        'gradientunits',
        'gradienttransform',
        'spreadmethod',
        'preserveaspectratio',
        'fill',
        'fill-opacity',
        'fill-rule',
        'stroke',
        'stroke-width',
        'stroke-opacity',
        'stroke-linecap',
        'stroke-linejoin',
        'stroke-miterlimit',
        'stroke-dasharray',
        'stroke-dashoffset',
        'stop-color',
        'stop-opacity',
        'opacity',
        'clip-path',
        'clip-rule',
        'color',
        'vector-effect',
    ];

    /** Of transforms and colours; no other function is needed to draw. */
    private const FUNCTIONS = [
        'matrix',
        'translate',
        'scale',
        'rotate',
        'skewx',
        'skewy',
        'rgb',
        'rgba',
        'hsl',
        'hsla',
    ];

    /** @param  'svg'|'png'  $type */
    private function __construct(public string $type, public string $bytes)
    {
    }

    /** @throws Refused */
    public static function read(string $bytes): self
    {
        if (strlen($bytes) > self::MOST_BYTES) {
            throw Refused::because('mark_large', 'file', strlen($bytes), ['most' => intdiv(self::MOST_BYTES, 1024)]);
        }
        if (str_starts_with($bytes, "\x89PNG\r\n\x1a\n")) {
            $size = @getimagesizefromstring($bytes);
            if ($size === false || max($size[0], $size[1]) > self::MOST_PIXELS) {
                throw Refused::because($size === false ? 'mark_unreadable' : 'mark_pixels', 'file', null, [
                    'most' => self::MOST_PIXELS,
                ]);
            }

            return new self('png', $bytes);
        }

        return new self('svg', self::shapes($bytes));
    }

    private static function shapes(string $bytes): string
    {
        // A document type may define entities, which multiply or load files; shapes need none.
        // Another encoding than UTF-8 would hide them from what looks for them here.
        $encoding =
            preg_match('/^\s*(?:\xEF\xBB\xBF)?<\?xml[^>]*encoding\s*=\s*["\']([^"\']+)/i', $bytes, $m) === 1
                ? strtolower($m[1])
                : 'utf-8';
        if (
            $encoding !== 'utf-8' ||
            str_contains($bytes, "\0") ||
            ! mb_check_encoding($bytes, 'UTF-8') ||
            stripos($bytes, '<svg') === false ||
            stripos($bytes, '<!ENTITY') !== false
        ) {
            throw Refused::because('mark_unreadable', 'file');
        }
        $document = new \DOMDocument;
        $before = libxml_use_internal_errors(true);
        $read = $document->loadXML(
            (string) preg_replace('/<!DOCTYPE[^>\[]*(\[[^\]]*\])?[^>]*>/i', '', $bytes),
            LIBXML_NONET,
        );
        libxml_clear_errors();
        libxml_use_internal_errors($before);
        $root = $document->documentElement;
        if (! $read || $root === null || strtolower($root->localName ?? '') !== 'svg') {
            throw Refused::because('mark_unreadable', 'file');
        }
        self::keep($root);
        if ($root->getElementsByTagName('*')->length === 0) {
            throw Refused::because('mark_empty', 'file');
        }
        if ($root->getAttribute('viewBox') === '') {
            [$width, $height] = [(float) $root->getAttribute('width'), (float) $root->getAttribute('height')];
            $root->setAttribute('viewBox', '0 0 '.($width > 0 ? $width : 24).' '.($height > 0 ? $height : 24));
        }
        // A size of its own, for browsers draw a picture without one as nothing.
        $root->setAttribute('width', '96');
        $root->setAttribute('height', '96');

        return (string) $document->saveXML($root);
    }

    /**
     * Whether a value may make a browser load something: attributes that draw are read as styles, with their escapes
     * and functions.
     */
    private static function mayLink(string $value): bool
    {
        if (preg_match('/^\s*url\(\s*#[\w-]+\s*\)\s*$/D', $value) === 1) {
            return false;
        }
        preg_match_all('/([a-z-]+)\s*\(/i', $value, $functions);

        return strpbrk($value, '\\@') !== false ||
            str_contains($value, '//') ||
            str_contains($value, '/*') ||
            array_diff(array_map(strtolower(...), $functions[1]), self::FUNCTIONS) !== [];
    }

    private static function keep(\DOMElement $element): void
    {
        /** @var list<\DOMAttr> $attributes */
        $attributes = iterator_to_array($element->attributes ?? new \DOMNamedNodeMap, false);
        foreach ($attributes as $attribute) {
            // Paint may name a gradient of the same picture, and nothing else.
            if (
                self::mayLink($attribute->value) ||
                $attribute->prefix !== '' ||
                ! in_array(strtolower($attribute->name), self::ATTRIBUTES, true)
            ) {
                $element->removeAttributeNode($attribute);
            }
        }
        foreach (iterator_to_array($element->childNodes) as $child) {
            if (
                $child instanceof \DOMElement &&
                in_array(strtolower($child->localName ?? ''), self::ELEMENTS, true) &&
                in_array($child->namespaceURI, [null, 'http://www.w3.org/2000/svg'], true)
            ) {
                self::keep($child);
            } elseif (! $child instanceof \DOMText) {
                $element->removeChild($child);
            }
        }
    }
}
