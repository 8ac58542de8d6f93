<?php

declare(strict_types=1);

namespace PinYard\Formula;

use PinYard\Problem;
use PinYard\Refused;

/**
 * Finds the types of a formula's parts and turns it into the portable tree, or says what does not fit, and where.
 *
 * The tree: `['n', number]`, `['s', text]`, `['b', bool]`, `['z']` (missing), `['f', field key]`, `['l', text...]`,
 * or `[operation, part...]`. PHP, SQL and the phone read the same tree.
 *
 * @internal use {@see Formula::read()}
 */
final class Checker
{
    private const MOST_NODES = 1_000;

    /** @var array<string, true> */
    public array $fields = [];

    public bool $changes = false;

    /** @var array<string, true> titles of layers of areas that it reads */
    public array $areas = [];

    /** Whether it reads visits. */
    public bool $visited = false;

    private int $nodes = 0;

    public function __construct(private readonly string $text, private readonly Scope $scope)
    {
    }

    /**
     * @return array{list<mixed>, Type}
     *
     * @throws Refused
     */
    public function check(Node $node): array
    {
        if (++$this->nodes > self::MOST_NODES) {
            throw $this->refuse($node, 'formula_deep');
        }

        return match ($node->kind) {
            'number' => [['n', (float) $node->value], Type::Number],
            'text' => [['s', (string) $node->value], Type::Text],
            'word' => $node->value === null ? [['z'], Type::Missing] : [['b', (bool) $node->value], Type::YesNo],
            'name' => $this->field($node),
            'list' => throw $this->refuse($node, 'formula_list'),
            'call' => $this->call($node),
        };
    }

    /** @return array{list<mixed>, Type} */
    private function field(Node $node): array
    {
        $key = (string) $node->value;
        $type = $this->scope->fields[$key] ?? null;
        if ($type === null) {
            $near = Functions::nearest($key, ...array_keys($this->scope->fields));
            throw $this->refuse($node, $near === null ? 'formula_name' : 'formula_name_near', ['near' => $near ?? '']);
        }
        $this->fields[$key] = true;

        return [['f', $key], $type];
    }

    /** @return array{list<mixed>, Type} */
    private function call(Node $node): array
    {
        $name = (string) $node->value;
        if ($node->operator && in_array($name, ['eq', 'ne', 'lt', 'le', 'gt', 'ge'], true)) {
            return $this->comparison($node, $name);
        }
        if ($node->operator && ($name === 'in' || $name === 'not_in')) {
            return $this->membership($node, $name === 'not_in');
        }
        $isSign = $node->operator || ($name === 'choose'
            && ! str_starts_with(substr($this->text, $node->at), 'choose'));
        $forms = Functions::forms($name, $isSign);
        if ($forms === []) {
            $near = Functions::nearest($name, ...Functions::names());
            throw $this->refuse(
                $node,
                $near === null ? 'formula_function' : 'formula_function_near',
                ['name' => $name, 'near' => $near ?? ''],
                strlen($name),
            );
        }
        if ($name === 'visits' || $name === 'latest_visit') {
            $this->visited = true;
            if ($this->scope->neighbours?->known !== true && $this->scope->neighbours?->lenient !== true) {
                throw $this->refuse($node, 'formula_no_visits', ['name' => $name], strlen($name));
            }
        }
        $shown = $isSign ? Functions::SIGNS[$name] ?? $name : $name;
        $fitting = array_values(
            array_filter($forms, static fn (array $f): bool => self::takes($f[1], count($node->parts))),
        );
        if ($fitting === []) {
            throw $this->refuse(
                $node,
                'formula_arguments',
                ['name' => $shown, 'count' => count($node->parts), 'wanted' => self::counts($forms)],
                strlen($name),
            );
        }
        $this->changes = $this->changes || in_array($name, Functions::CHANGING, true);
        $last = null;
        foreach ($fitting as $i => $form) {
            try {
                return $this->form($node, $form, $shown, $name);
            } catch (Refused $e) {
                // Of several forms, the one that got furthest tells best what is off; a wrong first part speaks for
                // all.
                if ($last === null || ($e->problems[0]->params['at'] ?? 0) > ($last->problems[0]->params['at'] ?? 0)) {
                    $last = $e;
                }
            }
        }
        if (count($fitting) > 1 && $last instanceof WrongType) {
            $wanted = implode(', ', array_unique(array_map(static fn (array $f): string => $f[1][0], $fitting)));
            $params = $last->problems[0]->params;
            $first = $node->parts[0] ?? null;
            if ($first !== null && $params['at'] === Place::problem($this->text, '', $first->at, 1)->params['at']) {
                throw WrongType::for([
                    new Problem('formula_type', null, $last->problems[0]->value, ['wanted' => $wanted] + $params),
                ]);
            }
        }
        throw $last;
    }

    /**
     * @param  array{string, list<string>, string}  $form
     * @return array{list<mixed>, Type}
     */
    private function form(Node $node, array $form, string $shown, string $name): array
    {
        [$operation, $wants, $gives] = $form;
        if ($operation === 'area_of') {
            return $this->areaOf($node);
        }
        if ($operation === 'latest_visit') {
            return $this->latestVisit($node->parts[0]);
        }
        $tree = [$operation];
        $common = null;
        $against = '';
        foreach ($node->parts as $i => $part) {
            $want = ($wants[$i] ?? '...') === '...' ? $wants[count($wants) - 2] : $wants[$i];
            if ($want === 'unit') {
                $tree[] = $this->unit($part, $operation);

                continue;
            }
            if ($want === 'whole') {
                $negative = $part->kind === 'call' && $part->value === 'neg' && $part->parts[0]->kind === 'number';
                if ($negative) {
                    $part = new Node('number', -(float) $part->parts[0]->value, [], $part->at, $part->length);
                }
                if (
                    $part->kind !== 'number' ||
                    floor((float) $part->value) !== (float) $part->value ||
                    abs((float) $part->value) > 10
                ) {
                    throw $this->refuse($part, 'formula_whole', ['name' => $shown]);
                }
                $tree[] = ['n', (float) $part->value];

                continue;
            }
            if ($want === 'shape') {
                if ($part->kind !== 'text') {
                    throw $this->refuse($part, 'formula_shape', ['name' => $shown]);
                }
                $tree[] = ['s', (string) $part->value];

                continue;
            }
            [$sub, $type] = $this->check($part);
            if ($want === 'a') {
                $both = $common === null ? $type : Type::common($common, $type);
                if ($both === null && ($asWritten = $this->written($part, $common)) !== null) {
                    [$sub, $both] = [$asWritten, $common];
                }
                if (
                    $both === null ||
                    (in_array($name, ['least', 'most'], true) &&
                        ! in_array($both, [Type::Number, Type::Date, Type::Time, Type::Instant, Type::Missing], true))
                ) {
                    throw $this->refuse($part, $both === null ? 'formula_mixed' : 'formula_order', [
                        'name' => $shown,
                        'type' => $type->value,
                        'wanted' => $against,
                    ]);
                }
                $common = $both;
                $against = $common->value;
            } elseif ($want !== 'any') {
                $asked = Type::from($want);
                // A date is at hand wherever a moment is, through the programme's clock.
                if (
                    $type === Type::Instant &&
                    ($asked === Type::Date || $asked === Type::Time) &&
                    in_array($name, ['year', 'month', 'day', 'weekday', 'hour', 'minute'], true)
                ) {
                    $sub = [$asked === Type::Date ? 'date_of' : 'time_of', $sub];
                } elseif (! $type->fits($asked)) {
                    $sub =
                        $this->written($part, $asked) ??
                        throw $this->wrongType($part, [
                            'name' => $shown,
                            'type' => $type->value,
                            'wanted' => $want,
                        ]);
                }
            }
            $tree[] = $sub;
        }
        if ($name === 'age') {
            $tree = [$operation, $tree[1], [$operation === 'between_dates' ? 'today' : 'now'], $tree[2]];
        }
        if ($operation === 'has' && $node->parts[1]->kind === 'text' && $node->parts[0]->kind === 'name') {
            $this->knownCode($node->parts[1], (string) $node->parts[0]->value);
        }

        return [$tree, $gives === 'a' ? $common ?? Type::Missing : Type::from($gives)];
    }

    /** @return array{list<mixed>, Type} */
    private function areaOf(Node $node): array
    {
        $areas = $this->scope->neighbours->areas ?? [];
        $lenient = $this->scope->neighbours?->lenient === true;
        $title = $node->parts[0]->kind === 'text' ? (string) $node->parts[0]->value : '';
        if (! isset($areas[$title])) {
            if ($lenient) {
                return [['z'], Type::Missing];
            }
            throw $this->refuse($node->parts[0], $areas === [] ? 'formula_no_areas' : 'formula_areas', [
                'known' => implode(
                    ', ',
                    array_map(static fn (string $t): string => "\"$t\"", array_slice(array_keys($areas), 0, 6)),
                ),
            ]);
        }
        [$name, $types] = $areas[$title];
        $part = $node->parts[1] ?? null;
        $key = $part === null ? (string) $name : ($part->kind === 'text' ? (string) $part->value : '');
        if (! isset($types[$key])) {
            if ($lenient) {
                return [['z'], Type::Missing];
            }
            throw $this->refuse($part ?? $node->parts[0], 'formula_area_field', [
                'layer' => $title,
                'known' => implode(', ', array_slice(array_keys($types), 0, 8)),
            ]);
        }
        $this->areas[$title] = true;

        return [['area_of', $title, $key], $types[$key]];
    }

    /** @return array{list<mixed>, Type} */
    private function latestVisit(Node $part): array
    {
        $key = $part->kind === 'text' ? (string) $part->value : '';
        $types = $this->scope->neighbours->types ?? [];
        $type = $types[$key] ?? null;
        if ($type === null) {
            if ($this->scope->neighbours?->lenient === true) {
                return [['z'], Type::Missing];
            }
            $near = Functions::nearest($key, ...array_keys($types));
            throw $this->refuse($part, $near === null ? 'formula_visit' : 'formula_visit_near', [
                'near' => $near ?? '',
                'known' => implode(', ', array_slice(array_keys($types), 0, 8)),
            ]);
        }

        return [['latest_visit', $key], $type];
    }

    /** @return array{list<mixed>, Type} */
    private function comparison(Node $node, string $op): array
    {
        [$leftNode, $rightNode] = $node->parts;
        [$left, $leftType] = $this->check($leftNode);
        [$right, $rightType] = $this->check($rightNode);
        $common = Type::common($leftType, $rightType);
        if ($common === null) {
            if (($asWritten = $this->written($rightNode, $leftType)) !== null) {
                [$right, $common] = [$asWritten, $leftType];
            } elseif (($asWritten = $this->written($leftNode, $rightType)) !== null) {
                [$left, $common] = [$asWritten, $rightType];
            } else {
                throw $this->refuse($rightNode, 'formula_mixed', [
                    'name' => Functions::SIGNS[$op],
                    'type' => $rightType->value,
                    'wanted' => $leftType->value,
                ]);
            }
        }
        if ($common === Type::Choices) {
            throw $this->refuse($leftNode, 'formula_several');
        }
        if (! in_array($op, ['eq', 'ne'], true) && in_array($common, [Type::Text, Type::Choice, Type::YesNo], true)) {
            throw $this->refuse($leftNode, 'formula_order', [
                'name' => Functions::SIGNS[$op],
                'type' => $leftType->value,
                'wanted' => '',
            ]);
        }
        foreach ([[$leftNode, $rightNode], [$rightNode, $leftNode]] as [$a, $b]) {
            if ($a->kind === 'name' && $b->kind === 'text') {
                $this->knownCode($b, (string) $a->value);
            }
        }
        $operation =
            in_array($op, ['eq', 'ne'], true) && in_array($common, [Type::Text, Type::Choice], true)
                ? "{$op}_text"
                : $op;

        return [[$operation, $left, $right], Type::YesNo];
    }

    /** @return array{list<mixed>, Type} */
    private function membership(Node $node, bool $not): array
    {
        [$what, $list] = $node->parts;
        [$sub, $type] = $this->check($what);
        if (
            $list->kind !== 'list' ||
            $list->parts === [] ||
            ! in_array($type, [Type::Text, Type::Choice, Type::Number, Type::Date], true)
        ) {
            throw $this->refuse($list, 'formula_in');
        }
        $values = [];
        foreach ($list->parts as $part) {
            if ($type === Type::Number ? $part->kind !== 'number' : $part->kind !== 'text') {
                throw $this->wrongType($part, [
                    'name' => 'in',
                    'type' => $part->kind,
                    'wanted' => $type->value,
                ]);
            }
            if ($type === Type::Date && $this->written($part, $type) === null) {
                throw $this->wrongType($part, [
                    'name' => 'in',
                    'type' => 'text',
                    'wanted' => $type->value,
                ]);
            }
            if ($what->kind === 'name') {
                $this->knownCode($part, (string) $what->value);
            }
            $values[] = $type === Type::Number ? (float) $part->value : (string) $part->value;
        }
        $tree = ['in', $sub, ['l', ...$values]];

        return [$not ? ['not', $tree] : $tree, Type::YesNo];
    }

    /**
     * A text that was written where a date, a time or a moment is asked for.
     *
     * @return list<mixed>|null
     */
    private function written(Node $node, Type $type): ?array
    {
        if ($node->kind !== 'text') {
            return null;
        }
        $text = (string) $node->value;
        $value = match ($type) {
            Type::Date => Moment::date($text),
            Type::Time => Moment::time($text),
            Type::Instant => Moment::instant($text),
            default => null,
        };

        return $value === null ? null : ['s', $value];
    }

    private function knownCode(Node $text, string $field): void
    {
        $labels = $this->scope->labels[$field] ?? null;
        if ($labels !== null && ! isset($labels[(string) $text->value])) {
            $near = Functions::nearest((string) $text->value, ...array_map(strval(...), array_keys($labels)));
            $byLabel = array_search((string) $text->value, $labels, true);
            throw $this->refuse($text, 'formula_code', [
                'field' => $field,
                'near' => $byLabel === false ? $near ?? (string) (array_key_first($labels) ?? '') : (string) $byLabel,
            ]);
        }
    }

    /** @return list<mixed> */
    private function unit(Node $node, string $operation): array
    {
        $calendar = str_contains($operation, 'date');
        $units = array_keys(
            match (true) {
                $calendar => array_slice(Functions::UNITS, 3),
                str_contains($operation, 'times') => array_slice(Functions::UNITS, 0, 3),
                default => array_slice(Functions::UNITS, 0, 5),
            },
        );
        $word = $node->kind === 'text' ? (string) $node->value : '';
        $word = in_array("{$word}s", $units, true) ? "{$word}s" : $word;
        if (! in_array($word, $units, true)) {
            throw $this->refuse($node, 'formula_unit', [
                'known' => implode(', ', array_map(static fn (string $u): string => "\"$u\"", $units)),
            ]);
        }

        return ['s', $word];
    }

    /** @param  list<string>  $wants */
    private static function takes(array $wants, int $count): bool
    {
        return end($wants) === '...' ? $count >= count($wants) - 1 : $count === count($wants);
    }

    /** @param  list<array{string, list<string>, string}>  $forms */
    private static function counts(array $forms): string
    {
        $counts = array_map(
            static fn (array $f): string => end($f[1]) === '...' ? count($f[1]) - 1 .' or more' : (string) count($f[1]),
            $forms,
        );

        return implode(' or ', array_values(array_unique($counts)));
    }

    /** @param  array<string, scalar|null>  $params */
    private function refuse(Node $node, string $code, array $params = [], ?int $bytes = null): Refused
    {
        return Place::refuse($this->text, $code, $node->at, $bytes ?? $node->length, $params);
    }

    /** @param  array<string, scalar|null>  $params */
    private function wrongType(Node $node, array $params): WrongType
    {
        return WrongType::for([Place::problem($this->text, 'formula_type', $node->at, $node->length, $params)]);
    }
}
