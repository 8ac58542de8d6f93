<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** A chart of a card: some numbers of the record beside each other, as bars or as parts of a whole. */
final readonly class CardChart
{
    public const FEWEST = 2;

    public const MOST = 8;

    private const KINDS = ['bars', 'donut'];

    /** @param  list<string>  $fields  keys of numbers */
    private function __construct(public string $kind, public array $fields)
    {
    }

    /**
     * Reads `{kind: 'bars'|'donut', fields: [key]}`.
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design, string $at): self
    {
        $in = is_array($in) ? $in : [];
        $kind = $in['kind'] ?? null;
        if (! is_string($kind) || ! in_array($kind, self::KINDS, true)) {
            throw Refused::because('chart_kind', "$at/kind", is_scalar($kind) ? $kind : null);
        }
        $fields = is_array($in['fields'] ?? null)
            ? array_values(array_unique($in['fields'], SORT_REGULAR))
            : [];
        if (count($fields) < self::FEWEST || count($fields) > self::MOST) {
            throw Refused::because('chart_fields', "$at/fields", count($fields), [
                'fewest' => self::FEWEST,
                'most' => self::MOST,
            ]);
        }
        foreach ($fields as $i => $key) {
            if (! is_string($key) || ! Look::countsBy($design->field($key))) {
                throw Refused::because('look_field', "$at/fields/$i", is_scalar($key) ? $key : null);
            }
        }

        return new self($kind, array_values(array_filter($fields, is_string(...))));
    }

    /** One that is stored; of what has left the design there is no chart. */
    public static function stored(mixed $in, LayerDesign $design): ?self
    {
        try {
            return $in === null ? null : self::read($in, $design, 'card/chart');
        } catch (Refused) {
            return null;
        }
    }

    /** @return array{kind: string, fields: list<string>} */
    public function toArray(): array
    {
        return ['kind' => $this->kind, 'fields' => $this->fields];
    }
}
