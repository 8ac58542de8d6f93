<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * Records of the layer carry an altitude: kept in metres above the WGS 84 ellipsoid or as it was typed, shown in this
 * unit.
 */
final readonly class AltitudeRules
{
    /** Metres of an international foot (exact). */
    public const FOOT = 0.3048;

    /** The deepest trench and the highest summit lie well within (metres). */
    public const LOWEST = -12_000.0;

    public const HIGHEST = 10_000.0;

    /** @param  'm'|'ft'  $unit */
    public function __construct(public string $unit = 'm', public bool $required = false)
    {
    }

    /** @return array{unit: 'm'|'ft', required?: true} */
    public function toArray(): array
    {
        return ['unit' => $this->unit] + ($this->required ? ['required' => true] : []);
    }
}
