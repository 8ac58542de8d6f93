<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Moment;

/**
 * Reads one field of a design document: what may be said of its kind, limits, choices, default.
 *
 * @internal
 */
final readonly class FieldReader
{
    public const KEY = '/^[a-z][a-z0-9_]{0,39}$/D';

    /** Names that every record has anyway. */
    private const TAKEN_KEYS = ['id', 'lon', 'lat', 'collected_at', 'author', 'version', 'photos'];

    /** Words of formulas; a field of that name could not be told from them. */
    private const FORMULA_WORDS = ['true', 'false', 'null', 'and', 'or', 'not', 'in', 'xor', 'contains', 'matches'];

    public function __construct(private DocumentReader $in)
    {
    }

    /** @param  array<mixed>  $f */
    public function field(array $f, string $at): Field
    {
        $kindName = $f['kind'] ?? null;
        $kind = is_string($kindName) ? FieldKind::tryFrom($kindName) : null;
        if ($kind === null) {
            $this->in->off('kind_unknown', "$at/kind", $kindName);
            $kind = FieldKind::ShortText;
        }
        $this->in->noOthers($f, ['key', 'label', 'kind', 'hint', 'show_when', 'generation', ...self::own($kind)], $at);

        $label = $this->in->text($f, 'label', $at, 1, 120);
        $key = $f['key'] ?? null;
        if (! is_string($key) || preg_match(self::KEY, $key) !== 1) {
            $this->in->off('key_shape', "$at/key", $key);
            $key = '';
        } elseif (in_array($key, [...self::TAKEN_KEYS, ...self::FORMULA_WORDS], true)) {
            $this->in->off('key_taken', "$at/key", $key, ['key' => $key]);
        }

        [$lowest, $highest, $asks] =
            $kind->isNumber() || $kind->isTime()
                ? $this->limits($f['limits'] ?? null, "$at/limits", $kind)
                : [null, null, false];
        $most = null;
        if ($kind->isText() && array_key_exists('most', $f)) {
            $limit = $kind === FieldKind::ShortText ? Field::SHORT_TEXT_MOST : Field::LONG_TEXT_MOST;
            $most = $this->in->whole($f, 'most', $at, 1, $limit, $limit);
        }
        $field = new Field(
            key: $key,
            label: $label,
            kind: $kind,
            hint: $this->in->text($f, 'hint', $at, 0, 300),
            required: $this->in->flag($f, 'required', $at, false),
            lowest: $lowest,
            highest: $highest,
            most: $most,
            choices: $kind->isChoice() ? (new ChoiceReader($this->in))->choices($f, $at) : [],
            asks: $asks,
            shape: isset($f['shape']) ? ($this->in->text($f, 'shape', $at, 1, 60) ?: null) : null,
            unit: isset($f['unit']) ? ($this->in->text($f, 'unit', $at, 0, 20) ?: null) : null,
            readOnly: $this->in->flag($f, 'read_only', $at, false),
            decimals: isset($f['decimals']) ? $this->in->whole($f, 'decimals', $at, 0, 10, 2) : null,
            list: isset($f['list']) ? $this->in->whole($f, 'list', $at, 1, PHP_INT_MAX, 1) : null,
            showWhen: $this->formula($f, 'show_when', $at),
            requireWhen: $this->formula($f, 'require_when', $at),
            formula: $kind === FieldKind::Calculated ? $this->formula($f, 'formula', $at) ?? '' : null,
            generation: isset($f['generation']) ? $this->in->whole($f, 'generation', $at, 1, 9_999, 1) : 1,
        );

        return $this->withDefault($field, $f['default'] ?? null, $at);
    }

    /** @return list<string> what may be said of a field of this kind beside what may be said of all */
    private static function own(FieldKind $kind): array
    {
        $entered = ['required', 'read_only', 'require_when', 'default'];

        return match ($kind) {
            FieldKind::ShortText => [...$entered, 'most', 'shape'],
            FieldKind::LongText => [...$entered, 'most'],
            FieldKind::WholeNumber => [...$entered, 'limits', 'unit'],
            FieldKind::Decimal => [...$entered, 'limits', 'unit', 'decimals'],
            FieldKind::Date, FieldKind::Time, FieldKind::DateTime => [...$entered, 'limits'],
            FieldKind::OneChoice, FieldKind::SeveralChoices => [...$entered, 'choices', 'list'],
            FieldKind::YesNo => $entered,
            FieldKind::Calculated => ['formula', 'unit', 'decimals'],
            FieldKind::Heading => [],
        };
    }

    /** @param  array<mixed>  $f */
    private function formula(array $f, string $part, string $at): ?string
    {
        $text = $f[$part] ?? null;
        if ($text !== null && ! is_string($text)) {
            $this->in->off('must_be_text', "$at/$part", is_scalar($text) ? $text : null);

            return null;
        }

        return $text === null || trim($text) === '' ? null : $text;
    }

    /** A default must be a value that the field would take. */
    private function withDefault(Field $field, mixed $default, string $at): Field
    {
        if ($field->readOnly && $field->required && $default === null) {
            $this->in->off('read_only_required', "$at/read_only", null, ['label' => $field->label]);
        }
        if ($default === null || $default === '' || $default === []) {
            return $field;
        }
        // `today` and `now` stand for the moment when the form is opened.
        $moving =
            ($field->kind === FieldKind::Date && $default === 'today') ||
            ($field->kind === FieldKind::DateTime && $default === 'now');
        $problem = $moving ? null : ValueRule::problem($field, $default);
        if ($problem !== null) {
            $this->in->off($problem->code, "$at/default", $problem->value, $problem->params);

            return $field;
        }

        /** @var string|int|float|bool|list<string> $clean */
        $clean = $moving ? $default : ValueRule::clean($field, $default);

        return $field->withDefault($clean);
    }

    /** @return array{int|float|string|null, int|float|string|null, bool} */
    private function limits(mixed $limits, string $at, FieldKind $kind): array
    {
        if ($limits === null) {
            return [null, null, false];
        }
        if (! is_array($limits)) {
            $this->in->off('must_be_object', $at, $limits);

            return [null, null, false];
        }
        $this->in->noOthers($limits, ['lowest', 'highest', 'outside'], $at);
        $outside = $limits['outside'] ?? 'stop';
        if ($outside !== 'stop' && $outside !== 'ask') {
            $this->in->off('outside_unknown', "$at/outside", is_scalar($outside) ? $outside : null);
        }
        [$lowest, $highest] = [
            $this->limit($limits['lowest'] ?? null, "$at/lowest", $kind),
            $this->limit($limits['highest'] ?? null, "$at/highest", $kind),
        ];
        $fixed = ! in_array('today', [$lowest, $highest], true) && ! in_array('now', [$lowest, $highest], true);
        if (
            $lowest !== null &&
            $highest !== null &&
            $fixed &&
            (is_string($lowest) ? strcmp($lowest, (string) $highest) > 0 : $lowest > $highest)
        ) {
            $this->in->off('limits_upside_down', $at, null, ['lowest' => $lowest, 'highest' => $highest]);
        }

        return [$lowest, $highest, $outside === 'ask'];
    }

    private function limit(mixed $value, string $at, FieldKind $kind): int|float|string|null
    {
        if ($value === null) {
            return null;
        }
        $read = match ($kind) {
            FieldKind::WholeNumber => (is_int($value) || (is_float($value) && floor($value) === $value)) &&
            abs($value) <= Field::WHOLE_MOST
                ? (int) $value
                : null,
            FieldKind::Decimal => (is_int($value) || is_float($value)) && abs($value) <= Field::DECIMAL_MOST
                ? $value
                : null,
            FieldKind::Date => $value === 'today' ? $value : Moment::date($value),
            FieldKind::Time => Moment::time($value),
            default => $value === 'now' ? $value : Moment::instant($value),
        };
        if ($read === null) {
            $this->in->off(
                $kind === FieldKind::WholeNumber
                    ? (is_int($value) || (is_float($value) && floor($value) === $value)
                        ? 'out_of_range'
                        : 'must_be_whole')
                    : 'limit_shape',
                $at,
                is_scalar($value) ? $value : null,
                ['kind' => $kind->value, 'lowest' => -Field::WHOLE_MOST, 'highest' => Field::WHOLE_MOST],
            );
        }

        return $read;
    }
}
