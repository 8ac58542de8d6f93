<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\LayerDesign;
use PinYard\Formula\Moment;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/** One tile as it came in, read with what its programme has: every reader refuses what is not there. */
final readonly class TileInput
{
    /** @param  array<mixed>  $in */
    public function __construct(private array $in, private string $at, private BoardContext $context)
    {
    }

    public function value(string $key): mixed
    {
        return $this->in[$key] ?? null;
    }

    /**
     * A part of it that is read in the same way.
     *
     * @param  array<mixed>  $part
     */
    public function inside(array $part, string $at): self
    {
        return new self($part, "{$this->at}/$at", $this->context);
    }

    /** @param  array<string, scalar|null>  $params */
    public function refused(string $code, string $at, mixed $value = null, array $params = []): Refused
    {
        return Refused::because($code, "{$this->at}/$at", is_scalar($value) ? $value : null, $params);
    }

    /** @throws Refused */
    public function layer(string $key = 'layer'): int
    {
        $layer = $this->value($key);

        return is_int($layer) && isset($this->context->layers[$layer])
            ? $layer
            : throw $this->refused('layer_unknown', $key, $layer);
    }

    public function design(int $layer): LayerDesign
    {
        return $this->context->layers[$layer] ?? throw $this->refused('layer_unknown', 'layer', $layer);
    }

    /** @throws Refused */
    public function slice(mixed $slice, int $layer, string $at = 'slice'): ?int
    {
        return $slice === null || (is_int($slice) && ($this->context->slices[$slice] ?? null) === $layer)
            ? $slice
            : throw $this->refused('slice_unknown', $at, $slice);
    }

    /** @throws Refused */
    public function reading(): Reading
    {
        $layer = $this->layer();

        return new Reading($layer, $this->slice($this->value('slice'), $layer));
    }

    /** @throws Refused */
    public function quantity(mixed $key, int $layer, string $at): Quantity
    {
        $quantity = is_string($key)
            ? Quantity::of($key, $this->design($layer), in_array($layer, $this->context->visited, true))
            : null;

        return $quantity ?? throw $this->refused('field_unknown', $at, $key, ['key' => is_string($key) ? $key : '']);
    }

    /**
     * A date of the records: one of their fields, or when they were collected.
     *
     * @throws Refused
     */
    public function date(mixed $key, int $layer, string $at): string
    {
        if ($key === Grouping::COLLECTED) {
            return $key;
        }
        $field = is_string($key) ? $this->design($layer)->field($key) : null;

        return $field?->valueKind()->isDay() === true
            ? $field->key
            : throw $this->refused('tile_needs_date', $at, $key);
    }

    /** @throws Refused */
    public function day(mixed $day, string $at): string
    {
        return Moment::date($day) ?? throw $this->refused('tile_day', $at, $day);
    }

    /** @throws Refused */
    public function measure(int $layer, string $key = 'measure'): Measure
    {
        return Measure::read($this->value($key), $layer, $this, $key);
    }

    /** @throws Refused */
    public function grouping(int $layer, string $key = 'by'): Grouping
    {
        return Grouping::read($this->value($key), $layer, $this, $key);
    }

    /** @throws Refused */
    public function areas(mixed $layer, string $at): int
    {
        return is_int($layer) && isset($this->context->layers[$layer])
            && $this->context->layers[$layer]->geometry === GeometryKind::Area
            ? $layer
            : throw $this->refused('tally_areas', $at, $layer);
    }

    /** @throws Refused */
    public function map(): int
    {
        $map = $this->value('map');

        return is_int($map) && in_array($map, $this->context->maps, true)
            ? $map
            : throw $this->refused('tile_map', 'map', $map);
    }

    /**
     * One of some words; the first of them where nothing is said.
     *
     * @template T of string
     *
     * @param  non-empty-list<T>  $words
     * @return T
     *
     * @throws Refused
     */
    public function word(string $key, array $words): string
    {
        $value = $this->value($key) ?? $words[0];
        $found = array_search($value, $words, true);

        return $found === false
            ? throw $this->refused('tile_word', $key, $value, ['known' => implode(', ', $words)])
            : $words[$found];
    }

    /** @throws Refused */
    public function whole(string $key, int $least, int $most, ?int $default): ?int
    {
        $value = $this->value($key) ?? $default;

        return $value === null || (is_int($value) && $value >= $least && $value <= $most)
            ? $value
            : throw $this->refused('tile_number', $key, $value, ['least' => $least, 'most' => $most]);
    }

    /** @throws Refused */
    public function text(string $key, int $most): string
    {
        $value = $this->value($key) ?? '';
        if (! is_string($value)) {
            throw $this->refused('tile_text', $key);
        }
        if (mb_strlen($value) > $most) {
            throw $this->refused('too_long', $key, mb_substr($value, 0, 40).'…', [
                'length' => mb_strlen($value),
                'most' => $most,
            ]);
        }

        return $value;
    }

    /**
     * Keys of fields of a layer that hold values, each once.
     *
     * @param  list<string>  $default  where nothing is said
     * @return list<string>
     *
     * @throws Refused
     */
    public function fields(int $layer, int $most, array $default = []): array
    {
        $fields = $this->value('fields') ?? $default;
        if (! is_array($fields) || ! array_is_list($fields) || count($fields) > $most) {
            throw $this->refused('latest_fields', 'fields', null, ['most' => $most]);
        }
        $keys = [];
        foreach ($fields as $i => $key) {
            if (! is_string($key) || $this->design($layer)->field($key)?->hasValue() !== true) {
                throw $this->refused('field_unknown', "fields/$i", $key, ['key' => is_string($key) ? $key : '']);
            }
            $keys[] = $key;
        }

        return array_values(array_unique($keys));
    }

    public function yes(string $key): bool
    {
        return $this->value($key) === true;
    }
}
