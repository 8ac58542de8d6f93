<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * Two coordinators changed one design: brings together what each did since the version that both began from.
 * Where both changed the same thing to something else, what was saved first stands, and the other is named.
 */
final readonly class DesignMerge
{
    /**
     * @param  array<string, mixed>  $document
     * @param  list<string>  $theirs  what the first changed: a part's name, or a field's label
     * @param  list<array{what: string, part: string, mine: mixed}>  $clashes  where theirs stands and mine is named
     */
    private function __construct(public array $document, public array $theirs, public array $clashes)
    {
    }

    /**
     * @param  array<string, mixed>  $base
     * @param  array<string, mixed>  $theirs
     * @param  array<string, mixed>  $mine
     */
    public static function of(array $base, array $theirs, array $mine): self
    {
        $clashes = [];
        $changed = [];
        $merged = self::parts(
            '',
            array_diff_key($base, ['fields' => 1]),
            array_diff_key($theirs, ['fields' => 1]),
            array_diff_key($mine, ['fields' => 1]),
            $clashes,
        );
        foreach (array_keys(array_diff_key($base + $theirs, ['fields' => 1])) as $part) {
            if (($base[$part] ?? null) !== ($theirs[$part] ?? null)) {
                $changed[] = (string) $part;
            }
        }
        [$b, $t, $m] = [self::byKey($base), self::byKey($theirs), self::byKey($mine)];
        $fields = [];
        foreach ($m + $t as $key => $_) {
            $label = self::label($t[$key] ?? ($m[$key] ?? ($b[$key] ?? [])));
            if (($t[$key] ?? null) !== ($b[$key] ?? null)) {
                $changed[] = $label;
            }
            if (isset($m[$key], $t[$key])) {
                $fields[$key] = self::parts($label, $b[$key] ?? [], $t[$key], $m[$key], $clashes);
            } elseif (isset($m[$key])) {
                // They took it out: it stays only where I changed it meanwhile.
                if (! isset($b[$key]) || $m[$key] !== $b[$key]) {
                    $fields[$key] = $m[$key];
                }
            } elseif (! isset($b[$key]) || $t[$key] !== $b[$key]) {
                // I took it out: it stays where they made or changed it.
                $fields[$key] = $t[$key];
            }
        }
        foreach (array_diff_key($b, $t) as $gone) {
            $changed[] = self::label($gone);
        }

        return new self(
            [...$merged, 'fields' => array_values($fields)],
            array_values(array_unique($changed)),
            $clashes,
        );
    }

    /**
     * @param  array<string, mixed>  $base
     * @param  array<string, mixed>  $theirs
     * @param  array<string, mixed>  $mine
     * @param  list<array{what: string, part: string, mine: mixed}>  $clashes
     * @return array<string, mixed>
     */
    private static function parts(string $what, array $base, array $theirs, array $mine, array &$clashes): array
    {
        $merged = [];
        foreach (array_keys($theirs + $mine) as $part) {
            [$b, $t, $m] = [$base[$part] ?? null, $theirs[$part] ?? null, $mine[$part] ?? null];
            if ($m !== $b && $t !== $b && $m !== $t) {
                $clashes[] = ['what' => $what, 'part' => (string) $part, 'mine' => $m];
            }
            $value = $m !== $b && $t === $b ? $m : $t;
            if ($value !== null) {
                $merged[$part] = $value;
            }
        }

        return $merged;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return array<string, array<string, mixed>>
     */
    private static function byKey(array $document): array
    {
        $fields = [];
        foreach (is_array($document['fields'] ?? null) ? $document['fields'] : [] as $field) {
            if (is_array($field) && is_string($field['key'] ?? null)) {
                /** @var array<string, mixed> $known */
                $known = $field;
                $fields[$field['key']] = $known;
            }
        }

        return $fields;
    }

    /** @param  array<string, mixed>  $field */
    private static function label(array $field): string
    {
        return is_string($field['label'] ?? null) ? $field['label'] : '';
    }
}
