<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Problem;

/**
 * What a new design means for a layer that is already in use.
 *
 * Columns are only ever added: a field that leaves the design keeps its column, so that nothing
 * collected is dropped. Changing a field's kind, or taking away a choice that records carry,
 * would change what people recorded, so it is refused with the way out.
 */
final readonly class DesignChange
{
    /**
     * @param  list<Column>  $newColumns
     * @param  list<Problem>  $problems
     */
    private function __construct(public array $newColumns, public array $problems)
    {
    }

    /**
     * @param  array<string, FieldKind>  $kept  every field key that the table has a column for, with its kind
     * @param  callable(Field, list<string>): array<string, int>  $countCodes  records for each of these codes of a field
     */
    public static function between(LayerDesign $old, LayerDesign $new, array $kept, callable $countCodes): self
    {
        $columns = [];
        $problems = [];
        foreach ($new->fields as $i => $field) {
            if (! isset($kept[$field->key])) {
                $columns[] = Column::of($field);

                continue;
            }
            if ($kept[$field->key] !== $field->kind) {
                $problems[] = new Problem('kind_changed', "/fields/$i/kind", $field->kind->value, ['label' => $field->label, 'key' => $field->key]);

                continue;
            }
            $was = $old->field($field->key);
            if ($was === null || $field->kind !== FieldKind::OneChoice) {
                continue;
            }
            $gone = array_values(array_filter(
                array_map(static fn (Choice $c): string => $c->code, $was->choices),
                static fn (string $code): bool => $field->choice($code) === null,
            ));
            foreach ($gone === [] ? [] : $countCodes($field, $gone) as $code => $count) {
                if ($count > 0) {
                    $problems[] = new Problem('choice_in_use', "/fields/$i/choices", $code, [
                        'label' => $was->choice((string) $code)->label ?? $code, 'count' => $count,
                    ]);
                }
            }
        }

        return new self($columns, $problems);
    }
}
