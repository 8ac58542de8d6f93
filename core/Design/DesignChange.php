<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Problem;

/**
 * What a new design means for a layer that is already in use: said with counts before it is saved, and carried out
 * after.
 *
 * Nothing collected is ever dropped. A field that leaves the design keeps its column and gets its values back when it
 * returns. A field that changes its kind gets a new column with what could be turned; the old one stays as an archive.
 * A choice that records carry can only be retired, or its records moved to another choice.
 */
final readonly class DesignChange
{
    /**
     * @param  list<Field>  $newFields  that need a column
     * @param  array<string, array{Field, Field}>  $turned  fields that change their kind: as it was, as it is to be
     * @param  list<ChangeEffect>  $effects
     * @param  array<string, array<string, string>>  $moves  by key: code to the code that takes its place
     * @param  array<string, string|int|float|bool|list<string>>  $fills  by key: what records without a value get
     * @param  list<string>  $recalculate  keys of fields whose formula is new or another
     * @param  list<Problem>  $problems
     */
    private function __construct(
        public array $newFields,
        public array $turned,
        public array $effects,
        public array $moves,
        public array $fills,
        public array $recalculate,
        public array $problems,
    ) {
    }

    /**
     * @param  array<string, FieldKind>  $kept  every key that the table has a column for, with the kind of its values
     * @param  array<string, Field>  $earlier  fields that left the design, as they last were
     * @param  array<mixed>  $decisions  by key: `{move: {code: code}}`, `{retire: true}`, `{fill: value}`, `{leave:
     *     true}`
     */
    public static function between(
        LayerDesign $old,
        LayerDesign $new,
        array $kept,
        array $earlier,
        RecordCounts $counts,
        array $decisions = [],
    ): self {
        $newFields = [];
        $turned = [];
        $effects = [];
        $moves = [];
        $fills = [];
        $recalculate = [];
        $problems = [];
        $any = $counts->any();
        if ($any && $old->geometry !== $new->geometry) {
            // Shapes stay in their column: places until somebody draws them, and back again when the geometry returns.
            $effects[] = new ChangeEffect('geometry', '', 'kept', $counts->all(), [
                'label' => '',
                'from' => $old->geometry->value,
                'to' => $new->geometry->value,
            ]);
        }
        foreach ($new->valueFields() as $i => $field) {
            $key = $field->key;
            $at = '/fields/'.array_search($field, $new->fields, true);
            $was = $old->field($key) ?? ($earlier[$key] ?? null);
            $decision = is_array($decisions[$key] ?? null) ? $decisions[$key] : [];
            if (
                $field->kind === FieldKind::Calculated &&
                ($was === null || $was->formula !== $field->formula || $was->showWhen !== $field->showWhen)
            ) {
                $recalculate[] = $key;
            }
            if (! isset($kept[$key])) {
                $newFields[] = $field;
            } elseif ($kept[$key] !== $field->valueKind()) {
                $before =
                    $was !== null && $was->valueKind() === $kept[$key]
                        ? $was
                        : new Field($key, $field->label, $kept[$key]);
                $turned[$key] = [$before, $field];
                $count = $any && $field->kind !== FieldKind::Calculated ? $counts->withValue($key) : 0;
                if ($count > 0) {
                    $lost = $counts->unturnable($before, $field);
                    $effects[] = new ChangeEffect($lost > 0 ? 'turned_some' : 'turned', $key, 'converted', $count, [
                        'label' => $field->label,
                        'turned' => $count - $lost,
                        'rest' => $lost,
                        'from' => $kept[$key]->value,
                        'to' => $field->kind->value,
                    ]);
                }
            } elseif ($any && $old->field($key) === null && ($count = $counts->withValue($key)) > 0) {
                $effects[] = new ChangeEffect('back', $key, 'kept', $count, ['label' => $field->label]);
            }
            if (
                $any &&
                $field->required &&
                ! ($was !== null && $was->required && isset($kept[$key])) &&
                $field->showWhen === null
            ) {
                $missing = $counts->all() - (isset($kept[$key]) ? $counts->withValue($key) : 0);
                if ($missing > 0) {
                    $effects[] = new ChangeEffect(
                        'needed',
                        $key,
                        isset($decision['leave']) || isset($decision['fill']) ? 'kept' : 'decide',
                        $missing,
                        ['label' => $field->label],
                        'fill',
                    );
                    if (isset($decision['fill'])) {
                        $problem = ValueRule::problem($field, $decision['fill']);
                        if ($problem !== null) {
                            $problems[] = new Problem($problem->code, "$at/fill", $problem->value, $problem->params);
                        } elseif (($clean = ValueRule::clean($field, $decision['fill'])) !== null) {
                            $fills[$key] = $clean;
                        }
                    } elseif (! isset($decision['leave'])) {
                        $problems[] = new Problem('decide_needed', "$at/required", null, [
                            'label' => $field->label,
                            'count' => $missing,
                        ]);
                    }
                }
            }
            if ($any && $was !== null && isset($kept[$key]) && ! isset($turned[$key])) {
                if (
                    ($was->lowest !== $field->lowest || $was->highest !== $field->highest) &&
                    ($count = $counts->outside($field)) > 0
                ) {
                    $effects[] = new ChangeEffect('outside', $key, 'kept', $count, ['label' => $field->label]);
                }
                if ($field->kind->isChoice() && $was->kind === $field->kind) {
                    self::choices($field, $was, $counts, $decision, $at, $effects, $moves, $problems);
                }
            }
        }
        foreach ($any ? $old->valueFields() : [] as $field) {
            if (
                $new->field($field->key) === null &&
                $field->kind !== FieldKind::Calculated &&
                ($count = $counts->withValue($field->key)) > 0
            ) {
                $effects[] = new ChangeEffect('left', $field->key, 'kept', $count, ['label' => $field->label]);
            }
        }

        return new self($newFields, $turned, $effects, $moves, $fills, $recalculate, $problems);
    }

    /**
     * @param  array<mixed>  $decision
     * @param  list<ChangeEffect>  $effects
     * @param  array<string, array<string, string>>  $moves
     * @param  list<Problem>  $problems
     */
    private static function choices(
        Field $field,
        Field $was,
        RecordCounts $counts,
        array $decision,
        string $at,
        array &$effects,
        array &$moves,
        array &$problems,
    ): void {
        $gone = array_values(
            array_filter(
                array_map(static fn (Choice $c): string => $c->code, $was->choices),
                static fn (string $code): bool => $field->choice($code) === null,
            ),
        );
        $offered = array_values(
            array_map(
                static fn (Choice $c): string => $c->code,
                array_filter($field->choices, static fn (Choice $c): bool => ! $c->retired),
            ),
        );
        foreach ($gone === [] ? [] : $counts->withCodes($field, $gone) as $code => $count) {
            if ($count === 0) {
                continue;
            }
            $code = (string) $code;
            $to = is_array($decision['move'] ?? null) ? $decision['move'][$code] ?? null : null;
            $known = is_string($to) && $field->choice($to) !== null;
            $effects[] = new ChangeEffect(
                'choice_gone',
                $field->key,
                $known ? 'converted' : 'decide',
                $count,
                [
                    'label' => $field->label,
                    'code' => $code,
                    'choice' => $was->choice($code)->label ?? $code,
                ],
                'choice',
                $offered,
            );
            if ($known) {
                $moves[$field->key][$code] = $to;
            } else {
                $problems[] = new Problem('choice_in_use', "$at/choices", $code, [
                    'label' => $was->choice($code)->label ?? $code,
                    'count' => $count,
                ]);
            }
        }
    }
}
