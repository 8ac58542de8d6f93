<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;
use PinYard\Filter\Subject;
use PinYard\Refused;

/**
 * Something that was picked in a tile: a rule on the records of the tile's layer, which those of other layers follow
 * where it says something of them too.
 */
final readonly class Pick
{
    /** @param  list<array<string, mixed>>  $conditions  all of them hold */
    private function __construct(public int $layer, public array $conditions)
    {
    }

    /** @param  array<string, mixed>  ...$conditions */
    public static function of(int $layer, array ...$conditions): self
    {
        return new self($layer, array_values($conditions));
    }

    /** The records of one group. */
    public static function group(int $layer, Grouping $by, string $code): ?self
    {
        $field = $by->field;
        if ($by->areas !== null) {
            return self::of($layer, [
                'field' => Subject::PLACE, 'test' => 'in_area', 'value' => ['layer' => $by->areas, 'record' => $code],
            ]);
        }
        if ($by->step !== null) {
            return self::span($layer, $by->key, $code, self::lastDay($by->step, $code));
        }
        if ($by->key === Grouping::CREW) {
            return $code === '' ? null : self::of($layer, [
                'field' => Subject::CREW, 'test' => 'one_of', 'value' => [(int) $code],
            ]);
        }
        if ($field === null) {
            return null;
        }
        if ($code === '') {
            return self::of($layer, ['field' => $field->key, 'test' => 'missing']);
        }

        return self::of($layer, match ($field->valueKind()) {
            FieldKind::SeveralChoices => ['field' => $field->key, 'test' => 'has', 'value' => $code],
            FieldKind::YesNo => ['field' => $field->key, 'test' => 'is', 'value' => $code === '1'],
            FieldKind::WholeNumber => ['field' => $field->key, 'test' => 'is', 'value' => (int) $code],
            default => ['field' => $field->key, 'test' => 'is', 'value' => $code],
        });
    }

    public static function span(int $layer, string $by, string $from, string $to): self
    {
        return self::of($layer, ['field' => $by, 'test' => 'between', 'value' => [$from, $to]]);
    }

    private static function lastDay(Step $step, string $start): string
    {
        return Step::Day->after($step->after($start), -1);
    }

    /**
     * The rule for the records of a layer; null where it says nothing of them. Another layer follows by crews, places
     * and the moment of collecting, and by choices that it has under the same key and code.
     *
     * @throws Refused where the layer it is made for does not know it
     */
    public function on(int $layer, LayerDesign $design, ?LayerDesign $visits): ?Filter
    {
        if ($layer === $this->layer) {
            return Filter::read(['all' => $this->conditions], $design, $visits);
        }
        foreach ($this->conditions as $condition) {
            $key = $condition['field'] ?? null;
            $shared = in_array($key, [Subject::COLLECTED, Subject::PLACE, Subject::CREW, Subject::OWN], true)
                || (is_string($key) && $design->field($key)?->valueKind()->isChoice() === true);
            if (! $shared) {
                return null;
            }
        }
        try {
            return Filter::read(['all' => $this->conditions], $design, $visits);
        } catch (Refused) {
            return null;
        }
    }
}
