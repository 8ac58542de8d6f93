<?php

declare(strict_types=1);

namespace PinYard\Record;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Design\ValueRule;
use PinYard\Formula\Moment;
use PinYard\Formula\Surroundings;
use PinYard\Formula\Type;
use PinYard\Problem;

/**
 * Decides whether the values of one record are acceptable to a design, and works out what is calculated.
 *
 * Fields are gone through in the order in which they depend on each other: one whose condition does not hold has no
 * value; then the others are judged. The phone does the same in shared/form/rules.ts.
 */
final readonly class ValueCheck
{
    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values  one entry for each field that carries a
     *     value, null where there is none
     * @param  list<Problem>  $problems
     * @param  list<Problem>  $asks  values outside limits that ask: acceptable, but unusual
     */
    private function __construct(public array $values, public array $problems, public array $asks)
    {
    }

    /**
     * @param  array<mixed>  $values field keys with their values
     * @param  Surroundings|null  $in  moment, zone and place; by default now, in UTC
     * @param  array<string, mixed>  $was  the record's values so far, for fields that nobody may change
     */
    public static function against(LayerDesign $design, array $values, ?Surroundings $in = null, array $was = []): self
    {
        $in ??= new Surroundings([], new \DateTimeImmutable, new \DateTimeZone('UTC'));
        $today = $in->now->setTimezone($in->zone)->format('Y-m-d');
        $now = Moment::of($in->now);
        /** @var array<string, string|int|float|bool|list<string>|null> $clean */
        $clean = [];
        $problems = [];
        $asks = [];
        foreach (array_keys($values) as $key) {
            $known = $design->field((string) $key);
            if ($known === null || ! $known->hasValue()) {
                $problems[] = new Problem('field_unknown', (string) $key, ValueRule::shown($values[$key]), [
                    'key' => (string) $key,
                ]);
            }
        }
        $working = $in->anew($design->rules->labels);
        $wrong = [];
        $hidden = [];
        foreach ($design->rules->order as $key) {
            $field = $design->field($key);
            if ($field === null) {
                continue;
            }
            $show = $design->rules->show[$key] ?? null;
            $value = null;
            if ($show !== null && $show->value($working) !== true) {
                $hidden[$key] = true;
            } elseif ($field->kind === FieldKind::Calculated) {
                $value = $design->rules->formulas[$key]->value($working);
                // What no column could hold is no value.
                $value =
                    $design->rules->formulas[$key]->type === Type::Number &&
                    is_float($value) &&
                    abs($value) > Field::DECIMAL_MOST
                        ? null
                        : $value;
            } else {
                $given = $values[$key] ?? null;
                if (! ValueRule::isMissing($field, $given)) {
                    $problem = ValueRule::problem($field, $given);
                    $value = $problem === null ? ValueRule::clean($field, $given) : null;
                    if (
                        $problem === null &&
                        $field->readOnly &&
                        $value !== ($was[$key] ?? self::defaultOf($field->default, $today, $now))
                    ) {
                        $problem = ValueRule::off('read_only', $field, $given);
                    }
                    if ($problem !== null) {
                        $wrong[$key] = $problem;
                    }
                }
            }
            $clean[$key] = $value;
            $working->values[$key] = $value;
        }
        $ordered = [];
        foreach ($design->valueFields() as $field) {
            $key = $field->key;
            $ordered[$key] = $clean[$key] ?? null;
            if (isset($hidden[$key]) || $field->kind === FieldKind::Calculated) {
                continue;
            }
            if (isset($wrong[$key])) {
                $problems[] = $wrong[$key];

                continue;
            }
            if (
                $ordered[$key] === null &&
                ($field->required ||
                    (isset($design->rules->require[$key]) && $design->rules->require[$key]->value($working) === true))
            ) {
                $problems[] = ValueRule::off('required', $field, $values[$key] ?? null);

                continue;
            }
            $outside = ValueRule::outside($field, $ordered[$key], $today, $now);
            if ($outside !== null) {
                $field->asks ? ($asks[] = $outside) : ($problems[] = $outside);
            }
        }

        return new self($ordered, $problems, $asks);
    }

    private static function defaultOf(mixed $default, string $today, string $now): mixed
    {
        return $default === 'today' ? $today : ($default === 'now' ? $now : $default);
    }
}
