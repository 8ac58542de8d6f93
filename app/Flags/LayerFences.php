<?php

declare(strict_types=1);

namespace App\Flags;

use App\Layers\LayerRows;
use App\Models\Layer;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Flag\Fences;
use PinYard\Flag\FlagRules;
use PinYard\Flag\RecordFlags;
use PinYard\Stats\Spread;

/** Where the numbers of a layer lie, kept until it has changed by a fiftieth. */
final class LayerFences
{
    /** Of more records about so many tell it. */
    private const RECORDS = 50_000;

    private const SHARE = 50;

    /** Whether what was kept as of one change of the layer still tells as of another. */
    public static function hold(int $asOf, int $now): bool
    {
        return $now - $asOf < max(1, intdiv($asOf, self::SHARE));
    }

    /** @return array<string, Fences> by key of the field */
    public static function of(Layer $layer, FlagRules $rules): array
    {
        $fields = self::fields($layer, $rules);
        if ($fields === []) {
            return [];
        }
        $rows = LayerRows::live($layer);
        // There are no more records than there were changes.
        $part = intdiv($layer->change_number, self::RECORDS) + 1;
        if ($part > 1) {
            $rows->whereRaw('crc32(id) % ? = 0', [$part]);
        }
        $found = $rows->get(array_map(static fn (Field $f): string => $f->column(), $fields));
        $all = [];
        foreach ($fields as $field) {
            $column = $field->column();
            $fences = Fences::of(Spread::ofValues(
                $found->map(static fn ($row): ?float => $row->$column === null ? null : (float) $row->$column),
            ));
            if ($fences !== null) {
                $all[$field->key] = $fences;
            }
        }

        return $all;
    }

    /** @return list<Field> numbers that somebody typed */
    private static function fields(Layer $layer, FlagRules $rules): array
    {
        return ! $rules->outlier ? [] : array_values(array_filter(
            $layer->design()->valueFields(),
            static fn (Field $f): bool => in_array($f->kind, [FieldKind::WholeNumber, FieldKind::Decimal], true)
                && RecordFlags::isLookedAt($f, $rules),
        ));
    }

    /** @param  array<string, Fences>  $fences */
    public static function toJson(array $fences): string
    {
        return json_encode(
            (object) array_map(static fn (Fences $f): array => [$f->lower, $f->upper], $fences),
            JSON_THROW_ON_ERROR,
        );
    }

    /** @return array<string, Fences> */
    public static function fromJson(string $kept): array
    {
        return array_map(
            static fn (array $f): Fences => new Fences((float) $f[0], (float) $f[1]),
            (array) json_decode($kept, true, 8, JSON_THROW_ON_ERROR),
        );
    }
}
