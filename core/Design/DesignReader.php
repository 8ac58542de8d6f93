<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Moment;
use PinYard\Problem;
use PinYard\Record\OneValue;
use PinYard\Refused;

/**
 * Reads a design document and says everything that is wrong with it at once.
 *
 * The shape is that of `layer-design.schema.json`; this reader also checks what a schema cannot say
 * (doubled keys and codes, limits upside down). Places are JSON pointers (RFC 6901).
 *
 * @internal use {@see LayerDesign::fromArray()}
 */
final class DesignReader
{
    public const MOST_FIELDS = 200;

    public const MOST_CHOICES = 5_000;

    public const KEY = '/^[a-z][a-z0-9_]{0,39}$/D';

    public const CODE = '/^[A-Za-z0-9_.-]{1,40}$/D';

    /** Names that every record has anyway. */
    public const TAKEN_KEYS = ['id', 'lon', 'lat', 'collected_at', 'author', 'version', 'photos'];

    /** Words of formulas; a field of that name could not be told from them. */
    public const FORMULA_WORDS = ['true', 'false', 'null', 'and', 'or', 'not', 'in', 'xor', 'contains', 'matches'];

    private const MARKS = ['diamond', 'disc', 'triangle', 'bar', 'ring', 'cross'];

    /** @var list<Problem> */
    private array $problems = [];

    private function __construct()
    {
    }

    /**
     * @param  array<mixed>  $document
     *
     * @throws Refused
     */
    public static function read(array $document): LayerDesign
    {
        $reader = new self;
        $design = $reader->design($document);
        if ($reader->problems !== []) {
            throw Refused::for($reader->problems);
        }

        return $design;
    }

    /** @param  array<mixed>  $d */
    private function design(array $d): LayerDesign
    {
        $this->noOthers($d, ['$schema', 'title', 'purpose', 'geometry', 'name_field', 'fields', 'photos', 'rights', 'fix', 'info'], '');
        $title = $this->text($d, 'title', '', 1, 120);
        $purpose = $this->text($d, 'purpose', '', 0, 2000);
        if (($d['geometry'] ?? null) !== 'point') {
            $this->off('geometry_unknown', '/geometry', $d['geometry'] ?? null);
        }

        $fields = [];
        $list = $this->list($d, 'fields', self::MOST_FIELDS);
        foreach ($list as $i => $one) {
            if (is_array($one)) {
                $fields[] = $this->field($one, "/fields/$i");
            } else {
                $this->off('must_be_object', "/fields/$i", $one);
            }
        }
        $this->noDoubles($fields, static fn (Field $f): string => $f->key, 'key_doubled', '/fields', '/key');
        $this->noDoubles($fields, static fn (Field $f): string => mb_strtolower($f->label), 'label_doubled', '/fields', '/label');

        $rules = new RuleReader($fields);
        [$fields, $read] = $rules->read();
        array_push($this->problems, ...$rules->problems);

        $name = $d['name_field'] ?? null;
        $nameable = array_filter($fields, static fn (Field $f): bool => $f->hasValue());
        if ($name !== null && (! is_string($name) || ! in_array($name, array_map(static fn (Field $f): string => $f->key, $nameable), true))) {
            $this->off('name_field_unknown', '/name_field', $name);
            $name = null;
        }

        return new LayerDesign($title, $purpose, $fields, $this->photos($d), $this->crew($d), $name, $read, $this->fix($d), $this->info($d));
    }

    /** @param  array<mixed>  $f */
    private function field(array $f, string $at): Field
    {
        $kindName = $f['kind'] ?? null;
        $kind = is_string($kindName) ? FieldKind::tryFrom($kindName) : null;
        if ($kind === null) {
            $this->off('kind_unknown', "$at/kind", $kindName);
            $kind = FieldKind::ShortText;
        }
        $this->noOthers($f, ['key', 'label', 'kind', 'hint', 'show_when', 'generation', ...self::own($kind)], $at);

        $label = $this->text($f, 'label', $at, 1, 120);
        $key = $f['key'] ?? null;
        if (! is_string($key) || preg_match(self::KEY, $key) !== 1) {
            $this->off('key_shape', "$at/key", $key);
            $key = '';
        } elseif (in_array($key, [...self::TAKEN_KEYS, ...self::FORMULA_WORDS], true)) {
            $this->off('key_taken', "$at/key", $key, ['key' => $key]);
        }

        [$lowest, $highest, $asks] = $kind->isNumber() || $kind->isTime() ? $this->limits($f['limits'] ?? null, "$at/limits", $kind) : [null, null, false];
        $most = null;
        if ($kind->isText() && array_key_exists('most', $f)) {
            $limit = $kind === FieldKind::ShortText ? Field::SHORT_TEXT_MOST : Field::LONG_TEXT_MOST;
            $most = $this->whole($f, 'most', $at, 1, $limit, $limit);
        }
        $field = new Field(
            key: $key,
            label: $label,
            kind: $kind,
            hint: $this->text($f, 'hint', $at, 0, 300),
            required: $this->flag($f, 'required', $at, false),
            lowest: $lowest,
            highest: $highest,
            most: $most,
            choices: $kind->isChoice() ? $this->choices($f, $at) : [],
            asks: $asks,
            shape: isset($f['shape']) ? ($this->text($f, 'shape', $at, 1, 60) ?: null) : null,
            unit: isset($f['unit']) ? ($this->text($f, 'unit', $at, 0, 20) ?: null) : null,
            readOnly: $this->flag($f, 'read_only', $at, false),
            decimals: isset($f['decimals']) ? $this->whole($f, 'decimals', $at, 0, 10, 2) : null,
            list: isset($f['list']) ? $this->whole($f, 'list', $at, 1, PHP_INT_MAX, 1) : null,
            showWhen: $this->formula($f, 'show_when', $at),
            requireWhen: $this->formula($f, 'require_when', $at),
            formula: $kind === FieldKind::Calculated ? ($this->formula($f, 'formula', $at) ?? '') : null,
            generation: isset($f['generation']) ? $this->whole($f, 'generation', $at, 1, 9_999, 1) : 1,
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
            $this->off('must_be_text', "$at/$part", is_scalar($text) ? $text : null);

            return null;
        }

        return $text === null || trim($text) === '' ? null : $text;
    }

    /** A default must be a value that the field would take. */
    private function withDefault(Field $field, mixed $default, string $at): Field
    {
        if ($field->readOnly && $field->required && $default === null) {
            $this->off('read_only_required', "$at/read_only", null, ['label' => $field->label]);
        }
        if ($default === null || $default === '' || $default === []) {
            return $field;
        }
        // `today` and `now` stand for the moment when the form is opened.
        $moving = $field->kind === FieldKind::Date && $default === 'today' || $field->kind === FieldKind::DateTime && $default === 'now';
        $problem = $moving ? null : OneValue::problem($field, $default);
        if ($problem !== null) {
            $this->off($problem->code, "$at/default", $problem->value, $problem->params);

            return $field;
        }

        /** @var string|int|float|bool|list<string> $clean */
        $clean = $moving ? $default : OneValue::clean($field, $default);

        return $field->withDefault($clean);
    }

    /** @return array{int|float|string|null, int|float|string|null, bool} */
    private function limits(mixed $limits, string $at, FieldKind $kind): array
    {
        if ($limits === null) {
            return [null, null, false];
        }
        if (! is_array($limits)) {
            $this->off('must_be_object', $at, $limits);

            return [null, null, false];
        }
        $this->noOthers($limits, ['lowest', 'highest', 'outside'], $at);
        $outside = $limits['outside'] ?? 'stop';
        if ($outside !== 'stop' && $outside !== 'ask') {
            $this->off('outside_unknown', "$at/outside", is_scalar($outside) ? $outside : null);
        }
        [$lowest, $highest] = [$this->limit($limits['lowest'] ?? null, "$at/lowest", $kind), $this->limit($limits['highest'] ?? null, "$at/highest", $kind)];
        $fixed = ! in_array('today', [$lowest, $highest], true) && ! in_array('now', [$lowest, $highest], true);
        if ($lowest !== null && $highest !== null && $fixed && (is_string($lowest) ? strcmp($lowest, (string) $highest) > 0 : $lowest > $highest)) {
            $this->off('limits_upside_down', $at, null, ['lowest' => $lowest, 'highest' => $highest]);
        }

        return [$lowest, $highest, $outside === 'ask'];
    }

    private function limit(mixed $value, string $at, FieldKind $kind): int|float|string|null
    {
        if ($value === null) {
            return null;
        }
        $read = match ($kind) {
            FieldKind::WholeNumber => (is_int($value) || is_float($value) && floor($value) === $value) && abs($value) <= Field::WHOLE_MOST ? (int) $value : null,
            FieldKind::Decimal => (is_int($value) || is_float($value)) && abs($value) <= Field::DECIMAL_MOST ? $value : null,
            FieldKind::Date => $value === 'today' ? $value : Moment::date($value),
            FieldKind::Time => Moment::time($value),
            default => $value === 'now' ? $value : Moment::instant($value),
        };
        if ($read === null) {
            $this->off($kind === FieldKind::WholeNumber ? (is_int($value) || is_float($value) && floor($value) === $value ? 'out_of_range' : 'must_be_whole') : 'limit_shape', $at, is_scalar($value) ? $value : null, ['kind' => $kind->value, 'lowest' => -Field::WHOLE_MOST, 'highest' => Field::WHOLE_MOST]);
        }

        return $read;
    }

    /**
     * @param  array<mixed>  $f
     * @return list<Choice>
     */
    private function choices(array $f, string $at): array
    {
        $choices = [];
        foreach ($this->list($f, 'choices', self::MOST_CHOICES, $at) as $i => $one) {
            $here = "$at/choices/$i";
            if (! is_array($one)) {
                $this->off('must_be_object', $here, $one);

                continue;
            }
            $this->noOthers($one, ['code', 'label', 'retired', 'colour', 'mark'], $here);
            $colour = $one['colour'] ?? null;
            if ($colour !== null && (! is_string($colour) || preg_match('/^#[0-9A-Fa-f]{6}$/D', $colour) !== 1)) {
                $this->off('colour_shape', "$here/colour", is_scalar($colour) ? $colour : null);
                $colour = null;
            }
            $mark = $one['mark'] ?? null;
            if ($mark !== null && (! is_string($mark) || ! in_array($mark, self::MARKS, true))) {
                $this->off('mark_unknown', "$here/mark", is_scalar($mark) ? $mark : null, ['known' => implode(', ', self::MARKS)]);
                $mark = null;
            }
            $code = $one['code'] ?? null;
            if (! is_string($code) || preg_match(self::CODE, $code) !== 1) {
                $this->off('code_shape', "$here/code", $code);
                $code = '';
            }
            $choices[] = new Choice($code, $this->text($one, 'label', $here, 1, 120), $this->flag($one, 'retired', $here, false), $colour, $mark);
        }
        if (array_filter($choices, static fn (Choice $c): bool => ! $c->retired) === []) {
            $this->off('choices_empty', "$at/choices");
        }
        $this->noDoubles($choices, static fn (Choice $c): string => mb_strtolower($c->code), 'code_doubled', "$at/choices", '/code');
        $this->noDoubles($choices, static fn (Choice $c): string => mb_strtolower($c->label), 'choice_label_doubled', "$at/choices", '/label');

        return $choices;
    }

    /** @param  array<mixed>  $d */
    private function photos(array $d): PhotoRules
    {
        $p = $d['photos'] ?? [];
        if (! is_array($p)) {
            $this->off('must_be_object', '/photos', $p);

            return new PhotoRules;
        }
        $this->noOthers($p, ['allowed', 'least', 'most', 'max_bytes'], '/photos');
        $least = $this->whole($p, 'least', '/photos', 0, 50, 0);
        $most = $this->whole($p, 'most', '/photos', 1, 50, 6);
        if ($least > $most) {
            $this->off('limits_upside_down', '/photos', null, ['lowest' => $least, 'highest' => $most]);
        }

        return new PhotoRules(
            $this->flag($p, 'allowed', '/photos', false),
            $least,
            $most,
            $this->whole($p, 'max_bytes', '/photos', 10_000, PhotoRules::MOST_BYTES, PhotoRules::MAX_BYTES),
        );
    }

    /** @param  array<mixed>  $d */
    private function crew(array $d): CrewRights
    {
        $rights = $d['rights'] ?? [];
        $crew = is_array($rights) ? ($rights['crew'] ?? []) : null;
        if (! is_array($rights) || ! is_array($crew)) {
            $this->off('must_be_object', '/rights', $rights);

            return new CrewRights;
        }
        $this->noOthers($rights, ['crew'], '/rights');
        $this->noOthers($crew, ['add', 'see', 'change', 'delete'], '/rights/crew');
        $whose = [];
        foreach (['change' => 'own', 'delete' => 'none'] as $right => $default) {
            $whose[$right] = $crew[$right] ?? $default;
            if (! in_array($whose[$right], ['all', 'own', 'none'], true)) {
                $this->off('whose_unknown', "/rights/crew/$right", is_scalar($whose[$right]) ? $whose[$right] : null);
                $whose[$right] = $default;
            }
        }
        $see = $crew['see'] ?? 'all';
        if ($see !== 'all' && $see !== 'own') {
            $this->off('see_unknown', '/rights/crew/see', $see);
        }

        return new CrewRights($this->flag($crew, 'add', '/rights/crew', true), $see !== 'own', $whose['change'], $whose['delete']);
    }

    /** @param  array<mixed>  $d */
    private function fix(array $d): FixRules
    {
        $fix = $d['fix'] ?? [];
        if (! is_array($fix)) {
            $this->off('must_be_object', '/fix', $fix);

            return new FixRules;
        }
        $this->noOthers($fix, ['warn_above', 'refuse_above'], '/fix');
        [$warn, $refuse] = array_map(fn (string $end): ?int => isset($fix[$end]) ? $this->whole($fix, $end, '/fix', 1, 10_000, 100) : null, ['warn_above', 'refuse_above']);
        if ($warn !== null && $refuse !== null && $warn > $refuse) {
            $this->off('limits_upside_down', '/fix', null, ['lowest' => $warn, 'highest' => $refuse]);
        }

        return new FixRules($warn, $refuse);
    }

    /** @param  array<mixed>  $d */
    private function info(array $d): LayerInfo
    {
        $info = $d['info'] ?? [];
        if (! is_array($info)) {
            $this->off('must_be_object', '/info', $info);

            return new LayerInfo;
        }
        $this->noOthers($info, ['description', 'tags', 'credits', 'terms', 'source'], '/info');
        $tags = [];
        foreach ($this->list($info, 'tags', 30, '/info') as $i => $tag) {
            if (! is_string($tag) || trim($tag) === '' || mb_strlen($tag) > 40) {
                $this->off('tag_shape', "/info/tags/$i", is_scalar($tag) ? $tag : null);
            } else {
                $tags[] = trim($tag);
            }
        }

        return new LayerInfo(
            $this->text($info, 'description', '/info', 0, 5000), array_values(array_unique($tags)),
            $this->text($info, 'credits', '/info', 0, 500), $this->text($info, 'terms', '/info', 0, 2000), $this->text($info, 'source', '/info', 0, 500),
        );
    }

    /** @param  array<mixed>  $in */
    private function text(array $in, string $key, string $at, int $least, int $most): string
    {
        $value = $in[$key] ?? '';
        if (! is_string($value)) {
            $this->off('must_be_text', "$at/$key", $value);

            return '';
        }
        $length = mb_strlen($value);
        if (trim($value) === '' && $least > 0) {
            $this->off('empty', "$at/$key", $value);
        } elseif ($length > $most) {
            $this->off('too_long', "$at/$key", mb_substr($value, 0, 40).'…', ['length' => $length, 'most' => $most]);
        }

        return $value;
    }

    /** @param  array<mixed>  $in */
    private function whole(array $in, string $key, string $at, int $lowest, int $highest, int $default): int
    {
        $value = $in[$key] ?? $default;
        if (is_float($value) && floor($value) === $value && abs($value) <= Field::WHOLE_MOST) {
            $value = (int) $value;
        }
        if (! is_int($value)) {
            $this->off('must_be_whole', "$at/$key", $value);

            return $default;
        }
        if ($value < $lowest || $value > $highest) {
            $this->off('out_of_range', "$at/$key", $value, ['lowest' => $lowest, 'highest' => $highest]);

            return $default;
        }

        return $value;
    }

    /** @param  array<mixed>  $in */
    private function flag(array $in, string $key, string $at, bool $default): bool
    {
        $value = $in[$key] ?? $default;
        if (! is_bool($value)) {
            $this->off('must_be_yes_no', "$at/$key", $value);

            return $default;
        }

        return $value;
    }

    /**
     * @param  array<mixed>  $in
     * @return list<mixed>
     */
    private function list(array $in, string $key, int $most, string $at = ''): array
    {
        $value = $in[$key] ?? [];
        if (! is_array($value) || ! array_is_list($value)) {
            $this->off('must_be_list', "$at/$key", $value);

            return [];
        }
        if (count($value) > $most) {
            $this->off('too_many', "$at/$key", count($value), ['most' => $most, 'count' => count($value)]);

            return array_slice($value, 0, $most);
        }

        return $value;
    }

    /**
     * @param  array<mixed>  $in
     * @param  list<string>  $known
     */
    private function noOthers(array $in, array $known, string $at): void
    {
        foreach (array_keys($in) as $key) {
            if (! in_array($key, $known, true)) {
                $this->off('word_unknown', "$at/$key", null, ['word' => (string) $key, 'known' => implode(', ', $known)]);
            }
        }
    }

    /**
     * @template T
     *
     * @param  list<T>  $list
     * @param  callable(T): string  $by
     */
    private function noDoubles(array $list, callable $by, string $code, string $at, string $part): void
    {
        $seen = [];
        foreach ($list as $i => $one) {
            $what = $by($one);
            if ($what !== '' && isset($seen[$what])) {
                $this->off($code, "$at/$i$part", $what, ['first' => $seen[$what] + 1, 'second' => $i + 1]);
            }
            $seen[$what] ??= $i;
        }
    }

    /** @param  array<string, scalar|null>  $params */
    private function off(string $code, string $at, mixed $value = null, array $params = []): void
    {
        $this->problems[] = new Problem($code, $at, $value, $params);
    }
}
