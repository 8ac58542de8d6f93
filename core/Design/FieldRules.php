<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Formula;
use PinYard\Formula\Neighbours;
use PinYard\Formula\Scope;

/** The conditions and formulas of a design, checked, in an order in which each finds what it reads. */
final readonly class FieldRules
{
    /**
     * @param  list<string>  $order  all keys that carry values
     * @param  array<string, Formula>  $show
     * @param  array<string, Formula>  $require
     * @param  array<string, Formula>  $formulas
     * @param  array<string, array<array-key, string>>  $labels  code to label, by key of a choice field
     */
    public function __construct(
        public array $order,
        public array $show,
        public array $require,
        public array $formulas,
        public array $labels,
    ) {
    }

    /** What a formula about this layer may name. */
    public static function scope(LayerDesign $design, ?Neighbours $neighbours = null): Scope
    {
        $fields = [];
        foreach ($design->fields as $field) {
            $type = $field->valueKind()->type();
            if ($type !== null) {
                $fields[$field->key] = $type;
            }
        }

        return new Scope($fields, $design->rules->labels, $neighbours ?? $design->neighbours);
    }

    /**
     * What the phone needs to work the rules out without a server.
     *
     * @return array{order: list<string>, show: object, require: object, formulas: object}
     */
    public function toArray(): array
    {
        $tree = static fn (Formula $f): array => $f->tree;

        return [
            'order' => $this->order,
            'show' => (object) array_map($tree, $this->show),
            'require' => (object) array_map($tree, $this->require),
            'formulas' => (object) array_map($tree, $this->formulas),
        ];
    }

    /**
     * Calculated fields whose value may follow from a field, also by way of others.
     *
     * @return list<string> keys in the order in which each finds what it reads
     */
    public function readers(string $key): array
    {
        $moved = [$key];
        $readers = [];
        foreach ($this->order as $one) {
            $reads = [...$this->formulas[$one]->fields ?? [], ...$this->show[$one]->fields ?? []];
            if ($one !== $key && array_intersect($reads, $moved) !== []) {
                $moved[] = $one;
                if (isset($this->formulas[$one])) {
                    $readers[] = $one;
                }
            }
        }

        return $readers;
    }

    /** @return list<string> titles of layers of areas that formulas read */
    public function areas(): array
    {
        $titles = [];
        foreach (
            [...array_values($this->formulas), ...array_values($this->show),
                ...array_values($this->require)] as $formula
        ) {
            array_push($titles, ...$formula->areas);
        }

        return array_values(array_unique($titles));
    }

    /**
     * Calculated fields that tell something of a record's place, also by way of others, and by being shown or not.
     *
     * @param  string|null  $but  title of the layer in whose areas it may be known where a record lies
     * @return list<string> keys
     */
    public function placeReaders(?string $but = null): array
    {
        $found = [];
        foreach ($this->order as $key) {
            $reads = array_values(array_filter([$this->formulas[$key] ?? null, $this->show[$key] ?? null]));
            foreach ($reads as $formula) {
                if ($formula->readsPlace($but) || array_intersect($formula->fields, $found) !== []) {
                    $found[] = $key;
                    break;
                }
            }
        }

        return $found;
    }

    /** Whether a formula reads visits. */
    public function visited(): bool
    {
        foreach ([...$this->formulas, ...$this->show, ...$this->require] as $formula) {
            if ($formula->visited) {
                return true;
            }
        }

        return false;
    }

    public function changes(): bool
    {
        foreach ($this->formulas as $formula) {
            if ($formula->changes) {
                return true;
            }
        }

        return false;
    }
}
