<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Layer;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Texts;
use PinYard\Board\Grouping;
use PinYard\Board\MeasureKind;
use PinYard\Board\Quantity;
use PinYard\Board\Unit;
use PinYard\Design\FieldKind;

/** What tiles can measure of the records of a layer, and by what they can be put together. */
final class Measurable
{
    /** @return array<string, mixed> */
    public static function of(Layer $layer, User $person): array
    {
        $design = $layer->design();
        $hasVisits = $layer->visitsLayer !== null;
        $keys = array_map(static fn ($f): string => $f->key, $design->valueFields());
        $quantities = [];
        $more = [Quantity::LENGTH, Quantity::AREA, Quantity::VISITS, Quantity::PHOTOS, Quantity::PERSON];
        foreach ([...$keys, ...$more] as $key) {
            $quantity = Quantity::of($key, $design, $hasVisits);
            if ($quantity !== null) {
                $quantities[] = [
                    'key' => $key,
                    'label' => $quantity->field->label ?? Texts::of('quantity.'.ltrim($key, '@')),
                    'unit' => $quantity->unit,
                    'units' => Unit::beside($quantity->unit),
                    'number' => $quantity->isNumber(),
                    'measures' => array_values(array_map(
                        static fn (MeasureKind $k): string => $k->value,
                        array_filter(
                            MeasureKind::cases(),
                            static fn (MeasureKind $k): bool => $k->needsQuantity() && $quantity->has($k),
                        ),
                    )),
                ];
            }
        }

        return ['quantities' => $quantities, 'groupings' => self::groupings($layer, $person)];
    }

    /** @return list<array<string, mixed>> */
    private static function groupings(Layer $layer, User $person): array
    {
        $groupings = [];
        foreach ($layer->design()->valueFields() as $field) {
            $kind = $field->valueKind();
            if (Grouping::parts($kind)) {
                $groupings[] = [
                    'by' => ['field' => $field->key],
                    'label' => $field->label,
                    'time' => $kind->isDay(),
                    'parts' => $kind === FieldKind::OneChoice || $kind === FieldKind::YesNo,
                    'whole' => $kind !== FieldKind::SeveralChoices,
                ];
            }
        }
        $more = [Grouping::COLLECTED => true, Grouping::CREW => false, Grouping::PERSON => false];
        foreach ($more as $key => $isTime) {
            $groupings[] = [
                'by' => ['field' => $key],
                'label' => Texts::of('grouping.'.ltrim($key, '@')),
                'time' => $isTime,
                'parts' => $key === Grouping::CREW,
                'whole' => true,
            ];
        }
        foreach (Layer::areasOf($layer->programme) as $areas) {
            if ($areas->id !== $layer->id && ! VisibleRecords::for($person, $areas)->seesNothing()) {
                $groupings[] = [
                    'by' => ['areas' => $areas->id],
                    'label' => $areas->title,
                    'time' => false,
                    'parts' => false,
                    'whole' => false,
                ];
            }
        }

        return $groupings;
    }
}
