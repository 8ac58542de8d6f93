<?php

declare(strict_types=1);

namespace PinYard\Flag;

use DateTimeImmutable;
use DateTimeZone;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;

/** Finds what speaks against single records of a layer. */
final readonly class RecordFlags
{
    /** Clocks may differ by so much. */
    private const CLOCK_SECONDS = 300;

    /** Nearer than this, a step tells of no speed: fixes wander. */
    private const STEP_METRES = 200;

    /**
     * @param  Box  $area  of interest
     * @param  DateTimeZone  $zone  days begin by the programme's clock
     * @param  array<string, Fences>  $fences  of numbers, by key
     */
    public function __construct(
        private FlagRules $rules,
        private LayerDesign $design,
        private Box $area,
        private DateTimeZone $zone,
        private array $fences,
    ) {
    }

    /** @return list<Flag> */
    public function of(FlagFacts $facts): array
    {
        return array_values(array_filter([
            $this->outside($facts),
            $this->fix($facts),
            $this->double($facts),
            $this->speed($facts),
            ...$this->outliers($facts),
            ...$this->files($facts),
            ...$this->future($facts),
        ]));
    }

    private function outside(FlagFacts $facts): ?Flag
    {
        if (! $this->rules->outside || $facts->place === null) {
            return null;
        }

        return match (true) {
            ! $this->area->contains($facts->place) => new Flag(FlagKind::Outside),
            $facts->inArea === false => new Flag(FlagKind::Outside, said: ['areas' => (int) $this->rules->areas]),
            default => null,
        };
    }

    private function fix(FlagFacts $facts): ?Flag
    {
        return $this->rules->fix !== null && $facts->accuracy !== null && $facts->accuracy > $this->rules->fix
            ? new Flag(FlagKind::Fix, said: ['metres' => round($facts->accuracy, 1), 'most' => $this->rules->fix])
            : null;
    }

    private function double(FlagFacts $facts): ?Flag
    {
        $near = $facts->near;
        $within = $this->rules->double;

        return $within !== null && $near !== null
            && $near->metres <= $within['metres'] && $near->seconds <= $within['hours'] * 3_600
            ? new Flag(FlagKind::Double, other: $near->id, said: [
                'metres' => round($near->metres, 1),
                'minutes' => (int) round($near->seconds / 60),
            ])
            : null;
    }

    private function speed(FlagFacts $facts): ?Flag
    {
        $before = $facts->before;
        if ($this->rules->speed === null || $before === null || $before->seconds > FlagRules::STEP_HOURS * 3_600) {
            return null;
        }
        // At the least, were both fixes wrong towards each other.
        $metres = $before->metres - $before->slack;
        $fast = $metres > self::STEP_METRES && $metres / max(1.0, $before->seconds) * 3.6 > $this->rules->speed;

        return $fast
            ? new Flag(FlagKind::Speed, other: $before->id, said: [
                'metres' => round($before->metres),
                'minutes' => (int) round($before->seconds / 60),
            ])
            : null;
    }

    /** @return list<Flag> */
    private function outliers(FlagFacts $facts): array
    {
        $flags = [];
        foreach ($this->rules->outlier ? $this->fences : [] as $key => $fences) {
            $value = $facts->values[$key] ?? null;
            if ((is_int($value) || is_float($value)) && ! $fences->hold($value)) {
                $flags[] = new Flag(FlagKind::Outlier, (string) $key, said: [
                    'value' => $value,
                    'lower' => $fences->lower,
                    'upper' => $fences->upper,
                ]);
            }
        }

        return $flags;
    }

    /** @return list<Flag> */
    private function files(FlagFacts $facts): array
    {
        if (! $this->rules->files) {
            return [];
        }
        $wanted = ['' => $this->design->photos->allowed ? $this->design->photos->least : 0];
        foreach ($this->design->slots as $slot) {
            $wanted[$slot->key] = $slot->least;
        }
        $flags = [];
        foreach ($wanted as $slot => $least) {
            $there = $facts->files[$slot] ?? 0;
            if ($there < $least) {
                $flags[] = new Flag(FlagKind::Files, (string) $slot, said: ['there' => $there, 'least' => $least]);
            }
        }

        return $flags;
    }

    /** @return list<Flag> */
    private function future(FlagFacts $facts): array
    {
        if (! $this->rules->future) {
            return [];
        }
        $latest = $facts->received->modify('+'.self::CLOCK_SECONDS.' seconds');
        $flags = $facts->collected > $latest ? [new Flag(FlagKind::Future)] : [];
        foreach ($this->design->valueFields() as $field) {
            $value = self::isLookedAt($field, $this->rules) ? $facts->values[$field->key] ?? null : null;
            if (is_string($value) && $this->isAfter($field, $value, $latest)) {
                $flags[] = new Flag(FlagKind::Future, $field->key, said: ['value' => $value]);
            }
        }

        return $flags;
    }

    private function isAfter(Field $field, string $value, DateTimeImmutable $latest): bool
    {
        return match ($field->kind) {
            FieldKind::Date => $value > $latest->setTimezone($this->zone)->format('Y-m-d'),
            FieldKind::DateTime => new DateTimeImmutable($value) > $latest,
            default => false,
        };
    }

    /** What is worked out of others says nothing of its own. */
    public static function isLookedAt(Field $field, FlagRules $rules): bool
    {
        return $field->kind !== FieldKind::Calculated && ! in_array($field->key, $rules->without, true);
    }
}
