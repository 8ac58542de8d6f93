<?php

declare(strict_types=1);

namespace Tests\vectors;

use PinYard\Design\FieldRules;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Refused;

/**
 * Makes formulas at random, from a fixed seed, over the fields of formulas.json.
 * `php tests/vectors/make-random.php` writes them with what PHP gives; SQL and the phone must give the same.
 */
final class RandomFormulas
{
    public const SEED = 20261124;

    public const COUNT = 400;

    /** @var array<string, list<string>> */
    private const LEAVES = [
        'number' => ['clutch', 'hatched', 'weight', 'zero', 'blank', '0', '1', '2.5', '7', '-3', '1000', '0.1'],
        'text' => ['note', 'blank_text', 'species', '"CC"', '"a b"', '"é🐢"', '""', '"12.5"'],
        'yes_no' => ['opened', 'blank_yes', 'true', 'false'],
        'date' => ['laid_on', 'blank_date', 'today()', 'date(2024, 2, 29)', 'date(2025, 12, 31)'],
        'time' => ['begun'],
        'instant' => ['seen_at', 'now()'],
    ];

    private const FORMS = [
        'number' => [
            '(# + #)',
            '(# - #)',
            '# * #',
            '# / #',
            '# % #',
            'round(#, 2)',
            'round(#)',
            'round_up(#)',
            'round_down(#)',
            'absolute(#)',
            'root(#)',
            'least(#, #)',
            'most(#, #, #)',
            'length($)',
            'number($)',
            'count(threats)',
            'first_given(#, #)',
            '(? ? # : #)',
            'between(@, @, "days")',
            'between(@, @, "months")',
            'between(@, @, "years")',
            'between(!, !, "hours")',
            'age(@, "weeks")',
            'year(@)',
            'month(@)',
            'day(@)',
            'weekday(@)',
            'hour(!)',
            'minute(~)',
            'between(~, ~, "minutes")',
            'distance_to(144, -37)',
            'longitude()',
        ],
        'text' => [
            '$ ~ $',
            'text(#)',
            'text(#, 2)',
            'join("-", $, $)',
            'part($, 2, 3)',
            'label(species)',
            'first_given($, $)',
            '(? ? $ : $)',
            'text(@, "DD.MM.YYYY")',
            'text(!, "YYYY-MM-DD hh:mm")',
        ],
        'yes_no' => [
            '# < #',
            '# >= #',
            '# == #',
            '# != #',
            '$ == $',
            '$ != $',
            '@ <= @',
            '@ == @',
            '! > !',
            '(? and ?)',
            '(? or ?)',
            'not (?)',
            'missing(#)',
            'given($)',
            'species in ["CM", "CC"]',
            'has(threats, "tide")',
            '$ contains $',
            '$ starts with $',
            '$ ends with $',
            '~ < ~',
        ],
        'date' => [
            'add(@, #, "days")',
            'add(@, round(#), "months")',
            'add(@, 1, "years")',
            'date_of(!)',
            'date(#, #, #)',
            'first_given(@, @)',
            '(? ? @ : @)',
            'least(@, @)',
        ],
        'time' => ['time_of(!)'],
        'instant' => ['at(@, ~)', 'add(!, #, "hours")', 'most(!, !)'],
    ];

    private const MARKS = [
        '#' => 'number',
        '$' => 'text',
        '?' => 'yes_no',
        '@' => 'date',
        '~' => 'time',
        '!' => 'instant',
    ];

    /**
     * Those that the checker takes; by chance some compare a choice with a code that is none of its own.
     *
     * @return list<string>
     */
    public static function make(LayerDesign $design): array
    {
        $scope = FieldRules::scope($design);
        mt_srand(self::SEED);
        $formulas = [];
        $types = array_keys(self::FORMS);
        while (count($formulas) < self::COUNT) {
            $text = self::one($types[mt_rand(0, count($types) - 1)], 3);
            try {
                Formula::read($text, $scope);
                $formulas = array_values(array_unique([...$formulas, $text]));
            } catch (Refused) {
                continue;
            }
        }

        return $formulas;
    }

    private static function one(string $type, int $depth): string
    {
        if ($depth === 0 || mt_rand(0, 9) < 2) {
            return self::LEAVES[$type][mt_rand(0, count(self::LEAVES[$type]) - 1)];
        }
        $form = self::FORMS[$type][mt_rand(0, count(self::FORMS[$type]) - 1)];
        // Signs that stand for themselves are set apart by blanks in the forms; marks touch a bracket, a comma or an
        // end.
        $out = '';
        foreach (preg_split('/(\s(?:\?|~)\s|[#$?@~!])/', $form, -1, PREG_SPLIT_DELIM_CAPTURE) ?: [] as $piece) {
            $out .=
                isset(self::MARKS[$piece]) && ! str_contains($form, "$piece=")
                    ? self::one(self::MARKS[$piece], $depth - 1)
                    : $piece;
        }

        return $out;
    }
}
