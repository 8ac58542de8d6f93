<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Formula;
use PinYard\Formula\Neighbours;
use PinYard\Formula\Node;
use PinYard\Formula\Parser;
use PinYard\Formula\Scope;
use PinYard\Formula\Type;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Reads the conditions and formulas of a design in the order in which they depend on each other, and finds circles.
 *
 * @internal
 */
final class RuleReader
{
    /** @var list<Problem> */
    public array $problems = [];

    /** @var array<string, int> */
    private array $places = [];

    /** @var array<string, Type> */
    private array $types = [];

    /** @var array<string, array<array-key, string>> */
    private array $labels = [];

    /** @var list<string> */
    private array $order = [];

    /** @var array<string, 'open'|'done'> */
    private array $state = [];

    /** @var list<string> */
    private array $trail = [];

    /** @var array<string, Formula> */
    private array $show = [];

    /** @var array<string, Formula> */
    private array $require = [];

    /** @var array<string, Formula> */
    private array $formulas = [];

    /** @var array<int, Field> */
    private array $fields;

    /** @param  list<Field>  $fields */
    public function __construct(array $fields, private Neighbours $visits)
    {
        $this->fields = $fields;
        foreach ($fields as $i => $field) {
            if ($field->key !== '' && $field->hasValue()) {
                $this->places[$field->key] ??= $i;
                $type = $field->kind->type();
                if ($type !== null) {
                    $this->types[$field->key] = $type;
                }
                if ($field->kind->isChoice()) {
                    $this->labels[$field->key] = $field->labels();
                }
            }
        }
    }

    /** @return array{list<Field>, FieldRules} fields with the results of their formulas known */
    public function read(): array
    {
        foreach (array_keys($this->places) as $key) {
            $this->visit((string) $key);
        }
        foreach ($this->fields as $i => $field) {
            if ($field->kind === FieldKind::Heading && $field->showWhen !== null) {
                $this->compile($field->showWhen, "/fields/$i/show_when", Type::YesNo, $this->show, $field->key);
            }
            if ($field->requireWhen !== null && $field->hasValue()) {
                $this->compile(
                    $field->requireWhen,
                    "/fields/$i/require_when",
                    Type::YesNo,
                    $this->require,
                    $field->key,
                );
            }
        }

        return [
            array_values($this->fields),
            new FieldRules($this->order, $this->show, $this->require, $this->formulas, $this->labels),
        ];
    }

    private function visit(string $key): void
    {
        if (isset($this->state[$key])) {
            if ($this->state[$key] === 'open') {
                $from = (int) array_search($key, $this->trail, true);
                $ring = [...array_slice($this->trail, $from), $key];
                $i = $this->places[$key];
                $part = $this->fields[$i]->formula !== null ? 'formula' : 'show_when';
                $this->problems[] = new Problem(
                    count($ring) === 2 ? 'formula_itself' : 'formula_circle',
                    "/fields/$i/$part",
                    null,
                    [
                        'label' => $this->fields[$i]->label,
                        'ring' => implode(' → ', $ring),
                        'at' => 0,
                        'length' => 1,
                    ],
                );
            }

            return;
        }
        $this->state[$key] = 'open';
        $this->trail[] = $key;
        $i = $this->places[$key];
        $field = $this->fields[$i];
        foreach ([...self::names($field->formula), ...self::names($field->showWhen)] as $name) {
            if (isset($this->places[$name])) {
                $this->visit($name);
            }
        }
        if ($field->showWhen !== null) {
            $this->compile($field->showWhen, "/fields/$i/show_when", Type::YesNo, $this->show, $key);
        }
        if ($field->kind === FieldKind::Calculated) {
            $formula = $this->compile($field->formula ?? '', "/fields/$i/formula", null, $this->formulas, $key);
            if ($formula !== null) {
                $this->types[$key] =
                    $formula->type === Type::Choice || $formula->type === Type::Missing ? Type::Text : $formula->type;
                $this->fields[$i] = $field->withResult(FieldKind::keeping($formula->type));
            }
        }
        array_pop($this->trail);
        $this->state[$key] = 'done';
        $this->order[] = $key;
    }

    /** @param  array<string, Formula>  $into */
    private function compile(string $text, string $at, ?Type $wanted, array &$into, string $key): ?Formula
    {
        try {
            return $into[$key] = Formula::read($text, new Scope($this->types, $this->labels, $this->visits), $wanted);
        } catch (Refused $e) {
            foreach ($e->problems as $p) {
                $this->problems[] = new Problem($p->code, $at, $p->value, $p->params);
            }

            return null;
        }
    }

    /** @return list<string> */
    private static function names(?string $text): array
    {
        if ($text === null) {
            return [];
        }
        try {
            return self::namesIn(Parser::parse($text));
        } catch (Refused) {
            return [];
        }
    }

    /** @return list<string> */
    private static function namesIn(Node $node): array
    {
        $names = $node->kind === 'name' ? [(string) $node->value] : [];
        foreach ($node->parts as $part) {
            array_push($names, ...self::namesIn($part));
        }

        return $names;
    }
}
