<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Carto\Marks\ByChoice;
use PinYard\Carto\Marks\Marks;
use PinYard\Carto\Marks\NumberField;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * Points that lie close together on the screen are gathered into one mark with a number, until one is near enough to
 * tell them apart. The number is how many they are, the sum of a field, or the share of one class.
 */
final readonly class Gathering
{
    /** Pixels within which points are gathered. */
    private const RADIUS = 46;

    /** From here on each stands by itself. */
    private const UNTIL = 14;

    private const LATEST = 18;

    /**
     * @param  'count'|'sum'|'share'  $tell
     * @param  Field|null  $field  whose numbers are summed
     * @param  string|null  $code  of the class whose share is told
     * @param  int  $until  zoom from which nothing is gathered
     */
    private function __construct(
        public string $tell,
        public ?Field $field,
        public ?string $code,
        public int $until,
    ) {
    }

    /**
     * Reads `{tell, field?, code?, until?}`.
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design, Marks $marks): self
    {
        $in = is_array($in) ? $in : [];
        $tell = $in['tell'] ?? null;
        if (! in_array($tell, ['count', 'sum', 'share'], true)) {
            throw Refused::because('gather_tell', 'look/gather/tell', is_scalar($tell) ? $tell : null);
        }
        if ($design->geometry !== GeometryKind::Point) {
            throw Refused::because('gather_points', 'look/gather');
        }
        $code = $tell === 'share' ? $in['code'] ?? null : null;
        $known = $marks instanceof ByChoice && is_string($code) && isset($marks->classes[$code]);
        if ($tell === 'share' && ! $known) {
            throw Refused::because('gather_share', 'look/gather/code', is_scalar($code) ? $code : null);
        }
        $until = $in['until'] ?? self::UNTIL;
        if (! is_int($until) || $until < 1 || $until > self::LATEST) {
            throw Refused::because('gather_until', 'look/gather/until', is_scalar($until) ? $until : null, [
                'most' => self::LATEST,
            ]);
        }

        return new self(
            $tell,
            $tell === 'sum' ? NumberField::of($in['field'] ?? null, $design, 'look/gather/field') : null,
            is_string($code) ? $code : null,
            $until,
        );
    }

    /**
     * How the source of the style gathers its features (MapLibre style specification, GeoJSON sources). Features carry
     * `adds`, the number to be summed, where there is one.
     *
     * @return array<string, mixed>
     */
    public function source(): array
    {
        return [
            'cluster' => true,
            'clusterRadius' => self::RADIUS,
            'clusterMaxZoom' => $this->until - 1,
        ] + match ($this->tell) {
            'count' => [],
            'sum' => ['clusterProperties' => ['adds' => ['+', ['coalesce', ['get', 'adds'], 0]]]],
            'share' => ['clusterProperties' => [
                'those' => ['+', ['case', ['==', ['coalesce', ['get', 'class'], ''], $this->code], 1, 0]],
            ]],
        };
    }

    /** @return list<mixed> an expression of the number of a cluster, for a text */
    public function text(): array
    {
        return match ($this->tell) {
            'count' => self::short(['get', 'point_count']),
            'sum' => self::short(['get', 'adds']),
            'share' => ['concat', ['to-string', $this->percent()], ' %'],
        };
    }

    /** @return list<mixed> an expression of whole percents */
    public function percent(): array
    {
        return ['round', ['*', 100, ['/', ['get', 'those'], ['get', 'point_count']]]];
    }

    /**
     * @param  list<mixed>  $number
     * @return list<mixed>
     */
    private static function short(array $number): array
    {
        $tenths = static fn (int $by): array => ['to-string', ['/', ['round', ['/', $number, $by / 10]], 10]];

        return [
            'case',
            ['>=', ['abs', $number], 1_000_000],
            ['concat', $tenths(1_000_000), ' M'],
            ['>=', ['abs', $number], 10_000],
            ['concat', ['to-string', ['round', ['/', $number, 1_000]]], ' k'],
            ['to-string', ['/', ['round', ['*', $number, 10]], 10]],
        ];
    }

    /** @return array<string, mixed> what features depend on */
    public function carries(): array
    {
        return ['adds' => $this->field?->key];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return array_filter(
            ['tell' => $this->tell, 'field' => $this->field?->key, 'code' => $this->code, 'until' => $this->until],
            static fn (mixed $v): bool => $v !== null,
        );
    }
}
