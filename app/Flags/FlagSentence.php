<?php

declare(strict_types=1);

namespace App\Flags;

use App\Layers\StoredValue;
use App\Models\Layer;
use App\Texts;
use stdClass;

/** Says in words what speaks against a record, in the language of whoever reads it. */
final class FlagSentence
{
    /**
     * @param  stdClass  $flag  row of `record_flags`
     * @param  string|null  $other  what the record that it is compared with is called
     */
    public static function of(Layer $layer, stdClass $flag, ?string $other): string
    {
        $said = (array) json_decode($flag->said, true);

        return match ($flag->kind) {
            'outside' => Texts::of(isset($said['areas']) ? 'flag.said.outside.areas' : 'flag.said.outside', [
                'areas' => isset($said['areas'])
                    ? (string) Layer::withTrashed()->whereKey($said['areas'])->value('title')
                    : '',
            ]),
            'outlier', 'future' => self::value($layer, $flag, $said),
            'files' => Texts::of('flag.said.files', [
                ...$said,
                'slot' => $flag->about === ''
                    ? Texts::of('flag.photos')
                    : $layer->design()->slot($flag->about)->label ?? $flag->about,
            ]),
            'double', 'speed' => Texts::of("flag.said.$flag->kind", [
                'other' => $other ?? Texts::of('flag.unnamed'),
                'distance' => self::distance((float) ($said['metres'] ?? 0)),
                'time' => self::time((int) ($said['minutes'] ?? 0)),
            ]),
            default => Texts::of("flag.said.$flag->kind", $said),
        };
    }

    private static function distance(float $metres): string
    {
        return $metres < 1_000
            ? Texts::of('flag.metres', ['n' => $metres < 100 ? $metres : round($metres)])
            : Texts::of('flag.kilometres', ['n' => round($metres / 1_000, $metres < 100_000 ? 1 : 0)]);
    }

    private static function time(int $minutes): string
    {
        return $minutes < 120
            ? Texts::of('flag.minutes', ['n' => $minutes])
            : Texts::of('flag.hours', ['n' => intdiv($minutes + 30, 60)]);
    }

    /** @param  array<mixed>  $said */
    private static function value(Layer $layer, stdClass $flag, array $said): string
    {
        $field = $layer->design()->field($flag->about);
        if ($field === null) {
            return Texts::of("flag.said.$flag->kind.record");
        }
        $shown = static fn (mixed $value): string => Texts::number((string) StoredValue::shown(
            $field,
            is_string($value) && $flag->kind === 'future'
                ? StoredValue::toColumn($field->valueKind(), $value)
                : (is_int($value) || is_float($value) ? $value : (string) $value),
        ));

        return Texts::of("flag.said.$flag->kind", [
            'field' => $field->label,
            'value' => $shown($said['value'] ?? ''),
            'lower' => $shown($said['lower'] ?? ''),
            'upper' => $shown($said['upper'] ?? ''),
        ]);
    }
}
