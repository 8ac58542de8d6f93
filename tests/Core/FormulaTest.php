<?php

declare(strict_types=1);

use PinYard\Design\FieldRules;
use PinYard\Formula\Formula;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Lambert;
use PinYard\Refused;

/** @param  array<string, mixed>|null  $values */
function worked(string $formula, ?array $values = null, ?string $zone = null): mixed
{
    $v = vectors('formulas');
    $design = formulaDesign();
    $read = Formula::read($formula, FieldRules::scope($design));

    return $read->value(
        new Surroundings(
            $values ?? $v['values'],
            new DateTimeImmutable($v['now']),
            new DateTimeZone($zone ?? $v['zone']),
            $design->rules->labels,
            $v['lon'],
            $v['lat'],
        ),
    );
}

/** Numbers may differ in their last bits. */
function sameWorth(mixed $a, mixed $b): bool
{
    return (is_int($a) || is_float($a)) && (is_int($b) || is_float($b))
        ? abs($a - $b) <= 1e-9 * max(1, abs($a))
        : $a === $b;
}

describe('a formula', function (): void {
    it('gives what was worked out by hand', function (string $formula, mixed $expected): void {
        $got = worked($formula);
        expect(sameWorth($got, $expected))->toBeTrue(
            "$formula gave ".json_encode($got).', not '.json_encode($expected),
        );
    })->with(fn (): array => array_map(fn (array $c): array => $c, vectors('formulas')['cases']));

    // Source: IANA time zone data, as PHP carries it.
    it('counts time across clock changes', function (string $zone, string $formula, mixed $expected): void {
        expect(sameWorth(worked($formula, zone: $zone), $expected))->toBeTrue(
            "$formula in $zone gave ".json_encode(worked($formula, zone: $zone)),
        );
    })->with(fn (): array => vectors('formulas')['zones']);

    it('is refused with the place and the text that is off', function (
        string $formula,
        string $code,
        int $at,
        string $part,
    ): void {
        try {
            worked($formula);
            $problem = null;
        } catch (Refused $e) {
            $problem = $e->problems[0];
        }
        expect($problem?->code)
            ->toBe($code)
            ->and($problem->params['at'] ?? 0)
            ->toBe($at)
            ->and($problem->params['part'] ?? '')
            ->toBe($part);
        $pattern = json_decode((string) file_get_contents(__DIR__.'/../../resources/texts/en.json'), true)[
            "problem.$code"
        ];
        expect(MessageFormatter::formatMessage('en', $pattern, $problem->params))
            ->not->toContain('{')
            ->not->toBeEmpty();
    })->with(fn (): array => vectors('formulas')['refused']);

    it('is missing wherever a value that it needs is missing, and never an error', function (): void {
        foreach (vectors('formulas')['cases'] as [$formula]) {
            $got = worked($formula, []);
            expect($got === null || is_scalar($got))->toBeTrue();
        }
    });

    it('refuses what is too long or too deep with a sentence', function (): void {
        expect(refusals(fn () => worked(str_repeat('1 + ', 2_500).'1')))
            ->toBe(['formula_too_long'])
            ->and(refusals(fn () => worked(str_repeat('(', 200).'1'.str_repeat(')', 200))))
            ->toBe(['formula_deep'])
            ->and(refusals(fn () => worked(str_repeat('-', 2_000).'1')))
            ->toBe(['formula_deep']);
    });

    // Source: symfony/expression-language 7.4, which evaluates the same texts where nothing is missing.
    it('means what the language whose syntax it has says', function (): void {
        $language = new Symfony\Component\ExpressionLanguage\ExpressionLanguage;
        $values = array_filter(vectors('formulas')['values'], fn ($v): bool => ! is_array($v));
        $compared = 0;
        foreach (vectors('formulas')['cases'] as [$formula, $expected]) {
            if ($expected === null || preg_match('/\w\(|blank|\blaid_on\b/', $formula) === 1) {
                continue;
            }
            expect(
                sameWorth(
                    is_int($got = $language->evaluate($formula, $values)) ? (float) $got : $got,
                    is_int($expected) ? (float) $expected : $expected,
                ),
            )->toBeTrue($formula);
            $compared++;
        }
        expect($compared)->toBeGreaterThan(35);
    });
});

// Source: GeodSolve (geographiclib-tools, Karney 2013); Flinders Peak to Buninyong 54 972.271 m (ICSM, GDA Technical
// Manual).
it('measures distances in closed form to centimetres near by and to some metres far away', function (
    float $lon1,
    float $lat1,
    float $lon2,
    float $lat2,
    float $metres,
    float $off,
): void {
    expect(abs(Lambert::metres($lon1, $lat1, $lon2, $lat2) - $metres))->toBeLessThan($off);
})->with([
    'Flinders Peak to Buninyong' => [144.424867889, -37.951033417, 143.926495528, -37.652821139, 54972.271, 0.2],
    'the same place' => [10.0, 50.0, 10.0, 50.0, 0.0, 1e-9],
]);

it('measures as GeodSolve does', function (): void {
    mt_srand(20260501);
    $lines = '';
    $pairs = [];
    for ($i = 0; $i < 200; $i++) {
        $near = $i % 2 === 0;
        $a = [mt_rand(-179_000, 179_000) / 1000, mt_rand(-80_000, 80_000) / 1000];
        $b = $near
            ? [$a[0] + mt_rand(-50, 50) / 1000, $a[1] + mt_rand(-50, 50) / 1000]
            : [mt_rand(-90_000, 90_000) / 1000, mt_rand(-60_000, 60_000) / 1000];
        $pairs[] = [$a, $b, $near];
        $lines .= "$a[1] $a[0] $b[1] $b[0]\n";
    }
    $answers = explode("\n", trim((string) shell_exec('printf -- '.escapeshellarg($lines).' | GeodSolve -i -p 4')));
    foreach ($pairs as $i => [$a, $b, $near]) {
        $metres = (float) preg_split('/\s+/', trim($answers[$i]))[2];
        if ($metres < 15_000_000) {
            expect(abs(Lambert::metres($a[0], $a[1], $b[0], $b[1]) - $metres))->toBeLessThan(
                $near ? 0.05 : 60.0,
                json_encode([$a, $b]),
            );
        }
    }
});
