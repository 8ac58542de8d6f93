<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Problem;
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
        $this->noOthers($d, ['$schema', 'title', 'purpose', 'geometry', 'name_field', 'fields', 'photos', 'rights'], '');
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

        $name = $d['name_field'] ?? null;
        if ($name !== null && (! is_string($name) || ! in_array($name, array_map(static fn (Field $f): string => $f->key, $fields), true))) {
            $this->off('name_field_unknown', '/name_field', $name);
            $name = null;
        }

        return new LayerDesign($title, $purpose, $fields, $this->photos($d), $this->crew($d), $name);
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
        $own = match ($kind) {
            FieldKind::ShortText => ['most'],
            FieldKind::WholeNumber => ['limits'],
            FieldKind::OneChoice => ['choices'],
            FieldKind::Date => [],
        };
        $this->noOthers($f, ['key', 'label', 'kind', 'hint', 'required', ...$own], $at);

        $label = $this->text($f, 'label', $at, 1, 120);
        $key = $f['key'] ?? null;
        if (! is_string($key) || preg_match(self::KEY, $key) !== 1) {
            $this->off('key_shape', "$at/key", $key);
            $key = '';
        } elseif (in_array($key, self::TAKEN_KEYS, true)) {
            $this->off('key_taken', "$at/key", $key, ['key' => $key]);
        }

        [$lowest, $highest] = $kind === FieldKind::WholeNumber ? $this->limits($f['limits'] ?? null, "$at/limits") : [null, null];
        $most = null;
        if ($kind === FieldKind::ShortText && array_key_exists('most', $f)) {
            $most = $this->whole($f, 'most', $at, 1, Field::SHORT_TEXT_MOST, Field::SHORT_TEXT_MOST);
        }

        return new Field(
            key: $key,
            label: $label,
            kind: $kind,
            hint: $this->text($f, 'hint', $at, 0, 300),
            required: $this->flag($f, 'required', $at, false),
            lowest: $lowest,
            highest: $highest,
            most: $most,
            choices: $kind === FieldKind::OneChoice ? $this->choices($f, $at) : [],
        );
    }

    /** @return array{int|null, int|null} */
    private function limits(mixed $limits, string $at): array
    {
        if ($limits === null) {
            return [null, null];
        }
        if (! is_array($limits)) {
            $this->off('must_be_object', $at, $limits);

            return [null, null];
        }
        $this->noOthers($limits, ['lowest', 'highest', 'outside'], $at);
        if (($limits['outside'] ?? 'stop') !== 'stop') {
            $this->off('outside_unknown', "$at/outside", $limits['outside']);
        }
        $ends = [];
        foreach (['lowest', 'highest'] as $end) {
            $ends[] = isset($limits[$end]) ? $this->whole($limits, $end, $at, -Field::WHOLE_MOST, Field::WHOLE_MOST, 0) : null;
        }
        [$lowest, $highest] = $ends;
        if ($lowest !== null && $highest !== null && $lowest > $highest) {
            $this->off('limits_upside_down', $at, null, ['lowest' => $lowest, 'highest' => $highest]);
        }

        return [$lowest, $highest];
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
            $this->noOthers($one, ['code', 'label', 'retired'], $here);
            $code = $one['code'] ?? null;
            if (! is_string($code) || preg_match(self::CODE, $code) !== 1) {
                $this->off('code_shape', "$here/code", $code);
                $code = '';
            }
            $choices[] = new Choice($code, $this->text($one, 'label', $here, 1, 120), $this->flag($one, 'retired', $here, false));
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
        $this->noOthers($crew, ['add', 'see'], '/rights/crew');
        $see = $crew['see'] ?? 'all';
        if ($see !== 'all' && $see !== 'own') {
            $this->off('see_unknown', '/rights/crew/see', $see);
        }

        return new CrewRights($this->flag($crew, 'add', '/rights/crew', true), $see !== 'own');
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
