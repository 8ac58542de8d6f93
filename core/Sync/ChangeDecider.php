<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Design\ValueRule;
use PinYard\Formula\Moment;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Problem;
use PinYard\Record\ValueCheck;
use PinYard\Refused;

/**
 * Decides what becomes of a change to a record that is there: its values one by one, its place, its files, its
 * deletion.
 *
 * A value that others changed to something else meanwhile stays as they made it, and what came is kept beside it for a
 * person to decide; both sides changing to the same thing is no clash. Nobody's work vanishes: a change wins back a
 * deleted record, and a record that others have changed is not deleted.
 */
final readonly class ChangeDecider
{
    /**
     * @param  LayerDesign  $shown  the design that the form showed
     * @param  \Closure(string): bool  $isTaken  whether an id belongs to another file already
     */
    public function __construct(private LayerRules $rules, private LayerDesign $shown, private \Closure $isTaken)
    {
    }

    public function decide(Operation $op, RecordState $state): Decision
    {
        $held = [];
        if (! $this->rules->now->may($op->kind, $state->mine)) {
            if (! $this->rules->wasAllowed($op, $state->mine)) {
                return Decision::refused($op, [
                    $this->rules->now->sees($state->mine)
                        ? new Problem('change_not_allowed', 'record', $op->record->text)
                        : new Problem('record_unknown', 'record', $op->record->text),
                ]);
            }
            $held[] = new Problem('held_rights', 'record');
        }
        if ($op->base > $state->version) {
            return Decision::refused($op, [
                new Problem('base_future', 'base', $op->base, ['base' => $op->base, 'version' => $state->version]),
            ]);
        }

        return match ($op->kind) {
            Kind::Delete => $held === [] ? self::deleted($op, $state) : Decision::held($op, $held, state: $state),
            Kind::Restore => $held === [] ? self::restored($op, $state) : Decision::held($op, $held, state: $state),
            default => $this->changed($op, $state, $held),
        };
    }

    private static function deleted(Operation $op, RecordState $state): Decision
    {
        return match (true) {
            $state->deleted => Decision::changed($op, $state, false, false),
            // Somebody's visit that the deleter had not heard of is work on the record like a change.
            $state->othersAt > $op->base || $state->visitedAt > $op->visitsKnown => Decision::changed(
                $op,
                $state,
                false,
                true,
                [new ClashedValue(ClashedValue::DELETED, false, false, true)],
            ),
            default => Decision::changed(
                $op,
                $state->then($state->values, $state->shape, $state->altitude, true, $state->files),
                true,
                false,
            ),
        };
    }

    private static function restored(Operation $op, RecordState $state): Decision
    {
        return $state->deleted
            ? Decision::changed(
                $op,
                $state->then($state->values, $state->shape, $state->altitude, false, $state->files),
                true,
                false,
            )
            : Decision::changed($op, $state, false, false);
    }

    /** @param  list<Problem>  $held  reasons found so far */
    private function changed(Operation $op, RecordState $state, array $held): Decision
    {
        [$given, $problems] = $this->given($op, $state);
        $shape = $wasShape = null;
        if ($op->geometry !== null) {
            try {
                $shape = Shape::fromGeoJson($op->geometry, $this->shown->geometry);
            } catch (Refused $e) {
                array_push($problems, ...$e->problems);
            }
            try {
                $wasShape =
                    $op->wasGeometry === null ? null : Shape::fromGeoJson($op->wasGeometry, $this->shown->geometry);
            } catch (Refused) {
                // What cannot be read is taken for not known.
            }
        }
        array_push($problems, ...BatchDecider::altitudeProblems($op->hasAltitude, $op->altitude, $this->shown));
        $files = FileCheck::of($this->shown, $op->photos, $this->isTaken, $state->files);
        $alone = $files->problems === [] ? $files : FileCheck::of($this->shown, $op->photos, $this->isTaken, []);
        // Right by itself, but with what others have taken meanwhile it is too many.
        array_push($problems, ...$alone->problems);
        if ($alone !== $files && $alone->problems === []) {
            array_push($held, ...$files->problems);
            $files = $alone;
        }
        if ($problems !== []) {
            return Decision::refused($op, $problems);
        }

        $today = $this->rules->designs[$this->rules->current];
        [$values, $unfit] = $this->rules->carried($op->design, $given, $state);
        [$was] = $this->rules->carried($op->design, $this->was($op), $state);
        foreach ($unfit as $key) {
            $held[] = new Problem('held_value', $key, null, ['label' => $this->shown->field($key)->label ?? $key]);
        }
        if ($shape !== null && $shape->kind !== $today->geometry && $shape->kind !== GeometryKind::Point) {
            $held[] = new Problem('held_shape', 'geometry');
        }
        $merged = $state->values;
        $clashes = [];
        foreach ($values as $key => $value) {
            $is = $state->values[$key] ?? null;
            if (self::same($is, $value) || self::same($is, $was[$key] ?? null)) {
                $merged[$key] = $value;
            } elseif (! self::same($value, $was[$key] ?? null)) {
                $clashes[] = new ClashedValue($key, $was[$key] ?? null, $is, $value);
            }
        }
        $others = $state->othersAt > $op->base;
        $there = $state->shape;
        if ($shape !== null && ! self::samePlace($shape, $there)) {
            if ($wasShape === null ? ! $others : self::samePlace($wasShape, $there)) {
                $there = $shape;
            } else {
                $clashes[] = new ClashedValue(
                    ClashedValue::PLACE,
                    $op->wasGeometry,
                    $state->shape->toGeoJson(),
                    $shape->toGeoJson(),
                );
            }
        }
        $altitude = $state->altitude;
        if ($op->hasAltitude && ! self::same($op->altitude, $altitude)) {
            if ($op->wasAltitude === null ? ! $others : self::same($op->wasAltitude[0], $altitude)) {
                $altitude = $op->altitude;
            } elseif ($op->wasAltitude === null || ! self::same($op->altitude, $op->wasAltitude[0])) {
                $clashes[] = new ClashedValue(
                    ClashedValue::ALTITUDE,
                    $op->wasAltitude[0] ?? null,
                    $altitude,
                    $op->altitude,
                );
            }
        }
        if ($state->deleted) {
            $clashes[] = new ClashedValue(ClashedValue::DELETED, false, true, false, 'mine');
        }
        if ($held !== []) {
            return Decision::held($op, $held, $files->files, $state);
        }
        $check = ValueCheck::against(
            $today,
            self::known($merged, $today),
            $state->in->at($there, $altitude),
            $state->values,
        );
        $new = $this->newProblems($check->problems, $today, $state);
        if ($new !== []) {
            // Others, or a newer design, may be why it no longer fits; else it never did.
            return $others || $op->design < $this->rules->current
                ? Decision::held($op, $new, $files->files, $state)
                : Decision::refused($op, $new);
        }
        $after = [...$merged, ...$check->values];
        $counts = $state->files;
        foreach ($files->files as $file) {
            $counts[$file->slot ?? ''] = ($counts[$file->slot ?? ''] ?? 0) + 1;
        }
        $writes = $state->deleted || ! self::samePlace($there, $state->shape) || $altitude !== $state->altitude;
        foreach ($after as $key => $value) {
            $writes = $writes || ! self::same($value, $state->values[$key] ?? null);
        }

        return Decision::changed(
            $op,
            $writes ? $state->then($after, $there, $altitude, false, $counts) : $state,
            $writes,
            $others,
            $clashes,
            $files->files,
        );
    }

    /**
     * What was changed, by the design that the form showed; what is calculated is nobody's change.
     *
     * @return array{array<string, string|int|float|bool|list<string>|null>, list<Problem>}
     */
    private function given(Operation $op, RecordState $state): array
    {
        $values = $problems = [];
        $today = $op->capturedAt->setTimezone($this->rules->zone)->format('Y-m-d');
        $now = Moment::of($op->capturedAt);
        foreach ($op->values as $key => $value) {
            $field = $this->shown->field((string) $key);
            if ($field === null || ! $field->hasValue()) {
                $problems[] = new Problem('field_unknown', (string) $key, ValueRule::shown($value), [
                    'key' => (string) $key,
                ]);
            } elseif ($field->kind !== FieldKind::Calculated) {
                $missing = ValueRule::isMissing($field, $value);
                $problem = $missing ? null : ValueRule::problem($field, $value);
                $values[$field->key] = $clean = $missing || $problem !== null ? null : ValueRule::clean($field, $value);
                $problem ??= $field->asks ? null : ValueRule::outside($field, $clean, $today, $now);
                if ($field->readOnly && ! self::same($clean, $state->values[$field->key] ?? null)) {
                    $problem = ValueRule::off('read_only', $field, $value);
                }
                if ($problem !== null) {
                    $problems[] = $problem;
                }
            }
        }

        return [$values, $problems];
    }

    /**
     * @return array<string, string|int|float|bool|list<string>|null> what the changed values replaced, as far as it can
     *     be read
     */
    private function was(Operation $op): array
    {
        $was = [];
        foreach ($op->was as $key => $value) {
            $field = $this->shown->field((string) $key);
            if ($field !== null && array_key_exists($key, $op->values)) {
                $was[$field->key] =
                    ValueRule::isMissing($field, $value) || ! ValueRule::isOfKind($field, $value)
                        ? null
                        : ValueRule::clean($field, $value);
            }
        }

        return $was;
    }

    /**
     * Of what is wrong with the record, that which was not wrong before: nobody must answer for what an earlier design
     * allowed.
     *
     * @param  list<Problem>  $problems
     * @return list<Problem>
     */
    private function newProblems(array $problems, LayerDesign $today, RecordState $state): array
    {
        if ($problems === []) {
            return [];
        }
        $before = [];
        foreach (
            ValueCheck::against(
                $today,
                self::known($state->values, $today),
                $state->in->at($state->shape, $state->altitude),
                $state->values,
            )->problems as $p
        ) {
            $before["$p->field $p->code ".json_encode($p->value)] = true;
        }

        return array_values(
            array_filter(
                $problems,
                static fn (Problem $p): bool => ! isset($before["$p->field $p->code ".json_encode($p->value)]),
            ),
        );
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, mixed> those of fields that the design has
     */
    private static function known(array $values, LayerDesign $design): array
    {
        return array_filter(
            $values,
            static fn (string $key): bool => $design->field($key)?->hasValue() === true,
            ARRAY_FILTER_USE_KEY,
        );
    }

    private static function same(mixed $a, mixed $b): bool
    {
        if (is_array($a) && is_array($b)) {
            sort($a);
            sort($b);
        }
        if ((is_int($a) || is_float($a)) && (is_int($b) || is_float($b))) {
            return (float) $a === (float) $b;
        }

        return $a === $b;
    }

    /** Places as a phone sends them have seven decimals, about a centimetre. */
    private static function samePlace(Shape $a, Shape $b): bool
    {
        if ($a === $b) {
            return true;
        }
        $round = static fn (mixed $of): string => (string) json_encode(self::rounded($of));

        return $a->kind === $b->kind &&
            $round($a->toGeoJson()['coordinates']) === $round($b->toGeoJson()['coordinates']);
    }

    private static function rounded(mixed $of): mixed
    {
        return is_array($of)
            ? array_map(self::rounded(...), $of)
            : (is_int($of) || is_float($of)
                ? round((float) $of, 6) + 0.0
                : $of);
    }
}
