<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * What areas are coloured by: a measure of the records of another layer that lie in them. A record counts in each area
 * that its place lies in; one in none counts nowhere.
 */
final readonly class Tally
{
    /** Code of the class of areas with too few records to say anything. */
    public const FEW = 'few';

    /** Least numbers beyond this hide whole maps. */
    private const LEAST_MOST = 1_000;

    /** Rates are told by one, a hundred, a thousand, ten or a hundred thousand. */
    private const TIMES = [1, 100, 1_000, 10_000, 100_000];

    /** Values are told to so many decimals, so that adding in another order gives the same class. */
    private const DECIMALS = 6;

    private const SQUARE_METRES = 1_000_000;

    /**
     * @param  int  $layer  number of the layer whose records are counted
     * @param  int|null  $slice  number of the slice that they are in; null: all
     * @param  Field|null  $field  of that layer, what is measured; null: the records themselves
     * @param  int|null  $share  number of the slice whose share is told
     * @param  Field|null  $by  of the areas, what a rate is told by; null: their square kilometres
     * @param  int  $times  a rate is told by so many of it
     * @param  int  $least  records below which nothing is told; 0: always told
     */
    private function __construct(
        public int $layer,
        public ?int $slice,
        public TallyMeasure $measure,
        public ?Field $field,
        public ?int $share,
        public ?Field $by,
        public int $times,
        public int $least,
    ) {
    }

    /**
     * Reads `{layer, measure, slice?, field?, share?, by?, times?, least?}`: `by` is the key of a number of the areas,
     * or null for their square kilometres.
     *
     * @param  callable(int): ?LayerDesign  $others  the designs of layers by number
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $areas, callable $others): self
    {
        if ($areas->geometry !== GeometryKind::Area) {
            throw Refused::because('tally_areas', 'look/of');
        }
        $in = is_array($in) ? $in : [];
        $number = $in['layer'] ?? null;
        $design = is_int($number) ? $others($number) : null;
        if (! is_int($number) || $design === null) {
            throw Refused::because('tally_layer', 'look/of/layer', is_scalar($number) ? $number : null);
        }
        $measure = TallyMeasure::tryFrom(is_string($in['measure'] ?? null) ? $in['measure'] : '');
        if ($measure === null) {
            throw Refused::because(
                'tally_measure',
                'look/of/measure',
                is_scalar($in['measure'] ?? null) ? $in['measure'] : null,
            );
        }
        $measured = $measure->needsField() || ($measure === TallyMeasure::Rate && isset($in['field']));
        $slice = $in['slice'] ?? null;
        $share = $measure === TallyMeasure::Share ? $in['share'] ?? null : null;
        if ($measure === TallyMeasure::Share && ! is_int($share)) {
            throw Refused::because('tally_share', 'look/of/share');
        }
        $least = $in['least'] ?? 0;
        if (! is_int($least) || $least < 0 || $least > self::LEAST_MOST) {
            throw Refused::because('tally_least', 'look/of/least', is_scalar($least) ? $least : null, [
                'most' => self::LEAST_MOST,
            ]);
        }
        $byField = $measure === TallyMeasure::Rate && isset($in['by']);
        $times = $byField ? $in['times'] ?? 1 : 1;
        if (! is_int($times) || ! in_array($times, self::TIMES, true)) {
            throw Refused::because('tally_times', 'look/of/times', is_scalar($times) ? $times : null);
        }

        return new self(
            $number,
            is_int($slice) ? $slice : null,
            $measure,
            $measured ? self::number($in['field'] ?? null, $design, 'look/of/field') : null,
            is_int($share) ? $share : null,
            $byField ? self::number($in['by'], $areas, 'look/of/by') : null,
            $times,
            $measure->needsMany() ? $least : 0,
        );
    }

    /** @throws Refused */
    private static function number(mixed $key, LayerDesign $design, string $at): Field
    {
        $field = is_string($key) ? $design->field($key) : null;

        return $field !== null && Look::countsBy($field)
            ? $field
            : throw Refused::because('look_field', $at, is_scalar($key) ? $key : null);
    }

    /** The same with at least so many records; what is of fewer is told to be so. */
    public function withLeast(int $least): self
    {
        return new self(
            $this->layer,
            $this->slice,
            $this->measure,
            $this->field,
            $this->share,
            $this->by,
            $this->times,
            max($this->least, $least),
        );
    }

    /** How many records of the layer there are in all, and nothing else. */
    public function counting(): self
    {
        return new self($this->layer, null, TallyMeasure::Count, null, null, null, 1, 0);
    }

    /** Whether a rate is told by the areas' own square kilometres. */
    public function byGround(): bool
    {
        return $this->measure === TallyMeasure::Rate && $this->by === null;
    }

    /** @return list<int> numbers of the slices that it goes by */
    public function slices(): array
    {
        return array_values(array_filter([$this->slice, $this->share], is_int(...)));
    }

    /** Whether there are some records and yet too few to tell anything by. */
    public function isFew(TallyState $state): bool
    {
        if ($state->held || $this->measure === TallyMeasure::Count) {
            // Of counts those that are held back alone, for a small one says what it says.
            return $state->held;
        }
        $n = $this->field === null || $this->measure === TallyMeasure::Rate ? $state->records : $state->known;

        // No record at all is a rate of nought, and says as little; of a mean or a share there is then none.
        return $n < $this->least && ($n > 0 || $this->measure === TallyMeasure::Rate);
    }

    /**
     * The measure; what too few records say is told by {@see isFew()} and not here.
     *
     * A rate is count / population × times (common practice, no source).
     *
     * @param  float|null  $by  what the area has of what a rate is told by: square metres, or its own number
     * @return float|null null where there is none: no record with a value, nothing to divide by
     */
    public function valueOf(TallyState $state, ?float $by = null): ?float
    {
        $sum = $state->known > 0 || $state->records === 0 ? $state->sum() : null;
        $value = match ($this->measure) {
            TallyMeasure::Count => (float) $state->records,
            TallyMeasure::Sum => $sum,
            TallyMeasure::Mean => $state->known > 0 ? $state->sum() / $state->known : null,
            TallyMeasure::Least => $state->least,
            TallyMeasure::Most => $state->most,
            TallyMeasure::Share => $state->records > 0 ? ($state->share / $state->records) * 100 : null,
            TallyMeasure::Rate => $this->rate($this->field === null ? (float) $state->records : $sum, $by),
        };

        return $value === null || ! is_finite($value) ? null : round($value, self::DECIMALS) + 0.0;
    }

    private function rate(?float $number, ?float $by): ?float
    {
        $by = $by === null || $this->by !== null ? $by : $by / self::SQUARE_METRES;

        return $number === null || $by === null || $by <= 0 ? null : ($number / $by) * $this->times;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'layer' => $this->layer,
            'slice' => $this->slice,
            'measure' => $this->measure->value,
            'field' => $this->field?->key,
            'share' => $this->share,
            'by' => $this->by?->key,
            'times' => $this->times,
            'least' => $this->least,
        ];
    }
}
