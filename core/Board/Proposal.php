<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;

/** The tiles that could answer a question, made of the kinds of the fields that it is tied to; the likeliest first. */
final class Proposal
{
    private const MOST = 6;

    /** Lines of more categories than this are a tangle. */
    private const FEW = 6;

    /** @var array<string, array{int, int}> columns and rows */
    private const SIZES = [
        'number' => [3, 2],
        'target' => [6, 2],
        'breakdown' => [4, 4],
        'trend' => [6, 4],
        'spread' => [4, 4],
        'pairs' => [6, 4],
        'table' => [6, 4],
        'latest' => [4, 4],
        'map' => [6, 5],
        'crews' => [4, 4],
        'outings' => [4, 4],
        'photos' => [6, 3],
        'text' => [4, 2],
        'link' => [3, 1],
        'picker' => [3, 2],
    ];

    /**
     * @param  list<string>  $keys  of the fields that the question is tied to
     * @return list<array<string, mixed>> tiles without id and title
     */
    public static function of(int $layer, LayerDesign $design, array $keys): array
    {
        $fields = [];
        foreach ($keys as $key) {
            $field = $design->field($key);
            if ($field?->hasValue() === true) {
                $fields[] = $field;
            }
        }
        $is = static fn (\Closure $test): array => array_values(
            array_filter($fields, static fn (Field $f): bool => $test($f->valueKind()) === true),
        );
        $categories = $is(static fn (FieldKind $k): bool => $k->isChoice() || $k === FieldKind::YesNo);
        $numbers = $is(static fn (FieldKind $k): bool => $k->isNumber());
        $dates = $is(static fn (FieldKind $k): bool => $k->isDay());
        $words = $is(static fn (FieldKind $k): bool => $k === FieldKind::ShortText);
        $tiles = [];
        $mean = static fn (Field $f): array => ['of' => 'mean', 'field' => $f->key];
        $by = $categories[0] ?? $words[0] ?? null;
        if ($numbers !== [] && $by !== null) {
            if (isset($numbers[1])) {
                $tiles[] = self::tile(
                    $layer,
                    'pairs',
                    ['measure' => $mean($numbers[0]), 'up' => $mean($numbers[1]), 'by' => ['field' => $by->key]],
                );
            }
            $tiles[] = self::tile(
                $layer,
                'breakdown',
                ['measure' => $mean($numbers[0]), 'by' => ['field' => $by->key], 'order' => 'most'],
            );
        }
        if ($dates !== []) {
            $lines = array_values(array_filter($categories, self::isFew(...)))[0] ?? null;
            $tiles[] = self::tile($layer, 'trend', [
                'by' => ['field' => $dates[0]->key, 'step' => 'week'],
            ] + ($numbers === [] ? [] : [
                'measure' => $mean($numbers[0]),
            ]) + ($lines === null ? [] : ['lines' => ['field' => $lines->key]]));
        }
        foreach ($categories as $category) {
            $tiles[] = self::tile($layer, 'breakdown', ['by' => ['field' => $category->key]]);
        }
        foreach ($numbers as $number) {
            $tiles[] = self::tile($layer, 'spread', ['measure' => $mean($number)]);
            $tiles[] = self::tile($layer, 'number', ['measure' => $mean($number)]);
        }
        foreach ($words as $word) {
            $tiles[] = self::tile($layer, 'breakdown', ['by' => ['field' => $word->key], 'top' => 10]);
        }
        if ($design->geometry === GeometryKind::Point) {
            $tiles[] = self::tile($layer, 'map', []);
        }
        $tiles[] = self::tile($layer, 'number', []);
        $tiles[] = self::tile(
            $layer,
            'latest',
            ['fields' => array_slice(array_map(static fn (Field $f): string => $f->key, $fields), 0, 3)],
        );

        return array_slice($tiles, 0, self::MOST);
    }

    /**
     * @param  array<string, mixed>  $body
     * @return array<string, mixed>
     */
    private static function tile(int $layer, string $kind, array $body): array
    {
        return ['kind' => $kind, 'layer' => $layer] + $body + self::size($kind);
    }

    private static function isFew(Field $field): bool
    {
        return $field->valueKind() === FieldKind::YesNo
            || ($field->valueKind() === FieldKind::OneChoice && count($field->choices) <= self::FEW);
    }

    /** @return array{width: int, height: int} in which a kind of tile comes to a board */
    public static function size(string $kind): array
    {
        [$width, $height] = self::SIZES[$kind] ?? [4, 3];

        return ['width' => $width, 'height' => $height];
    }
}
