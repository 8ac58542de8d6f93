<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use App\Maps\LegendText;
use App\Models\Layer;
use App\Models\Slice;
use App\Texts;
use PinYard\Carto\Tally;
use PinYard\Carto\TallyMeasure;
use PinYard\Carto\TallyState;

/** What areas are coloured by, in words; the phone says the same. */
final class TallyText
{
    private const SAID_DECIMALS = 2;

    /** As “Nests, opened: mean of Clutch size” or “Nests per km²”. */
    public static function of(Tally $tally, Layer $counted, ?Slice $slice, ?Slice $share): string
    {
        $what = implode(': ', array_filter([$counted->title, $slice?->name]));
        $of = $tally->field === null ? $what : "$what, {$tally->field->label}";

        return match ($tally->measure) {
            TallyMeasure::Count => $what,
            TallyMeasure::Rate => $tally->by === null
                ? Texts::of('tally.ground', ['what' => $of])
                : Texts::of('tally.rate', ['what' => $of, 'times' => $tally->times, 'by' => $tally->by->label]),
            TallyMeasure::Share => Texts::of('tally.share', [
                'what' => $what,
                'in' => $share->name ?? '',
            ]),
            default => Texts::of("tally.{$tally->measure->value}", [
                'what' => $what,
                'field' => $tally->field->label ?? '',
            ]),
        };
    }

    /** What follows a number of it. */
    public static function unit(Tally $tally): string
    {
        return match (true) {
            $tally->measure === TallyMeasure::Share => ' %',
            $tally->measure === TallyMeasure::Count, $tally->measure === TallyMeasure::Rate => '',
            default => $tally->field?->unit === null ? '' : " {$tally->field->unit}",
        };
    }

    public static function few(Tally $tally, Layer $counted): string
    {
        return Texts::of('tally.few', ['least' => $tally->least, 'what' => $counted->title]);
    }

    /** Of one area, with what it says when there is nothing to say. */
    public static function value(Tally $tally, Layer $counted, TallyState $state, ?float $by): string
    {
        if ($tally->isFew($state)) {
            return self::few($tally, $counted);
        }
        $value = $tally->valueOf($state, $by);

        if ($value === null) {
            return Texts::of('tally.none');
        }
        $text = self::number($tally, $value);
        $n = $tally->measure->needsField() ? $state->known : $state->records;

        return $tally->measure === TallyMeasure::Count ? $text : Texts::of('tally.of', ['value' => $text, 'n' => $n]);
    }

    public static function number(Tally $tally, float $value): string
    {
        return LegendText::number(round($value, self::SAID_DECIMALS)).self::unit($tally);
    }
}
