<?php

declare(strict_types=1);

namespace PinYard\Formula;

/**
 * The functions and operators of formulas: what they take, what they give.
 *
 * A missing value in gives a missing value out, but for `choose`, `first_given`, `missing`, `given`, `join`, `and`,
 * `or`.
 * A division by zero, a root of a negative number, a date that does not exist: missing.
 *
 * Words of a signature: a type, `a` for "any one type, the same for each a", `unit`, `whole` (a literal), `shape` (a
 * literal text),
 * `visit` (the key of a field of visits, as a literal text); `areas` (the title of a layer of areas, the key of a field
 * of it);
 * `...` says that the last may be repeated.
 */
final class Functions
{
    /** What each group of the picker holds, in order; operators are in none. */
    public const GROUPS = [
        'numbers' => ['round', 'round_up', 'round_down', 'absolute', 'root', 'least', 'most', 'number'],
        'texts' => ['join', 'text', 'length', 'part', 'upper', 'lower'],
        'choices' => ['label', 'has', 'count'],
        'missing' => ['choose', 'first_given', 'missing', 'given'],
        'dates' => [
            'between',
            'age',
            'add',
            'today',
            'now',
            'date',
            'at',
            'date_of',
            'time_of',
            'year',
            'month',
            'day',
            'weekday',
            'hour',
            'minute',
        ],
        'place' => ['longitude', 'latitude', 'altitude', 'distance_to', 'line_length', 'area_size', 'area_of'],
        'visits' => ['visits', 'latest_visit'],
    ];

    /** Units of time, with their seconds where they have a fixed number of them. */
    public const UNITS = [
        'seconds' => 1,
        'minutes' => 60,
        'hours' => 3600,
        'days' => 86400,
        'weeks' => 604800,
        'months' => null,
        'years' => null,
    ];

    /** Names whose value depends on when one asks. */
    /** Operations that read the place of a record. */
    public const OF_PLACE = ['longitude', 'latitude', 'altitude', 'distance_to', 'line_length', 'area_size', 'area_of'];

    public const CHANGING = ['today', 'now', 'age'];

    /** Name to its forms: operation of the portable tree, parameters, result. */
    private const FORMS = [
        'add' => [
            ['plus', ['number', 'number'], 'number'],
            ['add_date', ['date', 'number', 'unit'], 'date'],
            ['add_instant', ['instant', 'number', 'unit'], 'instant'],
        ],
        'sub' => [['minus', ['number', 'number'], 'number']],
        'mul' => [['times', ['number', 'number'], 'number']],
        'div' => [['over', ['number', 'number'], 'number']],
        'mod' => [['rest', ['number', 'number'], 'number']],
        'pow' => [['power', ['number', 'number'], 'number']],
        'neg' => [['minus_of', ['number'], 'number']],
        'same' => [['same', ['number'], 'number']],
        'cat' => [['cat', ['text', 'text'], 'text']],
        'and' => [['and', ['yes_no', 'yes_no'], 'yes_no']],
        'or' => [['or', ['yes_no', 'yes_no'], 'yes_no']],
        'not' => [['not', ['yes_no'], 'yes_no']],
        'contains' => [['contains', ['text', 'text'], 'yes_no']],
        'starts' => [['starts', ['text', 'text'], 'yes_no']],
        'ends' => [['ends', ['text', 'text'], 'yes_no']],
        'choose' => [['choose', ['yes_no', 'a', 'a'], 'a']],
        'round' => [['round', ['number'], 'number'], ['round', ['number', 'whole'], 'number']],
        'round_up' => [['ceiling', ['number'], 'number']],
        'round_down' => [['floor', ['number'], 'number']],
        'absolute' => [['absolute', ['number'], 'number']],
        'root' => [['root', ['number'], 'number']],
        'least' => [['least', ['a', 'a', '...'], 'a']],
        'most' => [['most', ['a', 'a', '...'], 'a']],
        'number' => [['number', ['text'], 'number']],
        'join' => [['join', ['text', 'text', '...'], 'text']],
        'text' => [
            ['text_number', ['number'], 'text'],
            ['text_number', ['number', 'whole'], 'text'],
            ['text_date', ['date', 'shape'], 'text'],
            ['text_instant', ['instant', 'shape'], 'text'],
        ],
        'length' => [['length', ['text'], 'number']],
        'part' => [['part', ['text', 'number', 'number'], 'text']],
        'upper' => [['upper', ['text'], 'text']],
        'lower' => [['lower', ['text'], 'text']],
        'label' => [['label', ['choice'], 'text'], ['labels', ['choices'], 'text']],
        'has' => [['has', ['choices', 'text'], 'yes_no']],
        'count' => [['count', ['choices'], 'number']],
        'first_given' => [['first_given', ['a', 'a', '...'], 'a']],
        'missing' => [['missing', ['any'], 'yes_no']],
        'given' => [['given', ['any'], 'yes_no']],
        'between' => [
            ['between_dates', ['date', 'date', 'unit'], 'number'],
            ['between_instants', ['instant', 'instant', 'unit'], 'number'],
            ['between_times', ['time', 'time', 'unit'], 'number'],
        ],
        'age' => [['between_dates', ['date', 'unit'], 'number'], ['between_instants', ['instant', 'unit'], 'number']],
        'today' => [['today', [], 'date']],
        'now' => [['now', [], 'instant']],
        'date' => [['date', ['number', 'number', 'number'], 'date']],
        'at' => [['at', ['date', 'time'], 'instant']],
        'date_of' => [['date_of', ['instant'], 'date']],
        'time_of' => [['time_of', ['instant'], 'time']],
        'year' => [['year', ['date'], 'number']],
        'month' => [['month', ['date'], 'number']],
        'day' => [['day', ['date'], 'number']],
        'weekday' => [['weekday', ['date'], 'number']],
        'hour' => [['hour', ['time'], 'number']],
        'minute' => [['minute', ['time'], 'number']],
        'longitude' => [['longitude', [], 'number']],
        'latitude' => [['latitude', [], 'number']],
        'altitude' => [['altitude', [], 'number']],
        'distance_to' => [['distance_to', ['number', 'number'], 'number']],
        'line_length' => [['line_length', [], 'number']],
        'area_size' => [['area_size', [], 'number']],
        // What it gives is the type of the field that it names, or that names the areas.
        'area_of' => [['area_of', ['areas'], 'missing'], ['area_of', ['areas', 'areas'], 'missing']],
        'visits' => [['visits', [], 'number']],
        // What it gives is the type of the field that it names.
        'latest_visit' => [['latest_visit', ['visit'], 'missing']],
    ];

    /** How operators are written, for sentences. */
    public const SIGNS = [
        'add' => '+',
        'sub' => '-',
        'mul' => '*',
        'div' => '/',
        'mod' => '%',
        'pow' => '**',
        'neg' => '-',
        'same' => '+',
        'cat' => '~',
        'and' => 'and',
        'or' => 'or',
        'not' => 'not',
        'contains' => 'contains',
        'starts' => 'starts with',
        'ends' => 'ends with',
        'eq' => '==',
        'ne' => '!=',
        'lt' => '<',
        'le' => '<=',
        'gt' => '>',
        'ge' => '>=',
        'in' => 'in',
        'not_in' => 'not in',
        'choose' => '? :',
    ];

    /** Operators that can also be called by name are in the picker; the others are signs only. */
    private const ONLY_SIGNS = [
        'sub',
        'mul',
        'div',
        'mod',
        'pow',
        'neg',
        'same',
        'cat',
        'and',
        'or',
        'not',
        'contains',
        'starts',
        'ends',
    ];

    /** @return list<array{string, list<string>, string}> */
    public static function forms(string $name, bool $asSign): array
    {
        $forms = self::FORMS[$name] ?? [];
        if (! $asSign && in_array($name, self::ONLY_SIGNS, true)) {
            return [];
        }

        // `+` adds numbers; to move a date one says so by name, with a unit.
        return $name !== 'add'
            ? $forms
            : array_values(array_filter($forms, static fn (array $f): bool => ($f[0] === 'plus') === $asSign));
    }

    /** @return list<string> */
    public static function names(): array
    {
        return array_merge(...array_values(self::GROUPS));
    }

    /** The known name that is nearest to a mistyped one, or null where none is near. */
    public static function nearest(string $word, string ...$known): ?string
    {
        $best = null;
        $least = min(strlen($word), max(2, intdiv(strlen($word), 3)) + 1);
        foreach ($known as $name) {
            $distance = levenshtein(strtolower($word), strtolower($name));
            if ($distance < $least) {
                [$best, $least] = [$name, $distance];
            }
        }

        return $best;
    }
}
