<?php

declare(strict_types=1);

use App\Layers\FormulaSql;
use Illuminate\Support\Facades\DB;
use PinYard\Design\FieldRules;
use PinYard\Formula\Formula;
use Tests\vectors\RandomFormulas;

describe('a formula as SQL over a layer', function (): void {
    beforeEach(function (): void {
        $v = vectors('formulas');
        $this->vectors = $v;
        $head = $this->person();
        $this->trees = $this->layer($this->programme($head), ['fields' => $v['design']['fields'], 'photos' => []]);
        $operation = $this->add($this->trees, [
            'values' => $v['values'],
            'geometry' => ['type' => 'Point', 'coordinates' => [$v['lon'], $v['lat']]],
        ]);
        expect($this->sync($head, [$operation])['outcomes'][0]['outcome'])->toBe('applied');
        $this->ask = function (string $text, string $zone): array {
            $design = $this->trees->design();
            $formula = Formula::read($text, FieldRules::scope($design));
            $sql = FormulaSql::of(
                $formula,
                $design,
                new DateTimeZone($zone),
                new DateTimeImmutable($this->vectors['now']),
                fn (string $t): string => DB::connection()->getPdo()->quote($t),
            );
            if ($sql === null) {
                return [false, null];
            }
            $got = DB::selectOne("SELECT $sql AS v FROM {$this->trees->table()}")->v;

            return [
                true,
                $got === null
                    ? null
                    : ($formula->type->value === 'yes_no'
                        ? (bool) $got
                        : ($formula->type->value === 'number'
                            ? (float) $got
                            : $got)),
            ];
        };
    });

    it('gives the same as PHP in every case of the vectors', function (): void {
        $wrong = [];
        $asked = 0;
        $cases = [
            ...array_map(fn (array $c): array => [...$c, $this->vectors['zone']], $this->vectors['cases']),
            ...array_map(fn (array $c): array => [$c[1], $c[2], $c[0]], $this->vectors['zones']),
            ...array_map(fn (array $c): array => [...$c, 'Europe/Berlin'], vectors('formulas-random')['cases']),
        ];
        foreach ($cases as [$text, $expected, $zone]) {
            [$inSql, $got] = ($this->ask)($text, $zone);
            $asked += (int) $inSql;
            $same =
                (is_int($expected) || is_float($expected)) && is_float($got)
                    ? abs($got - $expected) <= 1e-9 * max(1, abs($expected))
                    : $got === $expected;
            if ($inSql && ! $same) {
                $wrong[] = "$text gave ".json_encode($got).', not '.json_encode($expected);
            }
        }
        expect($wrong)->toBe([])->and($asked)->toBeGreaterThan(380);
    });

    it('has vectors that are those of the seed', function (): void {
        expect(array_column(vectors('formulas-random')['cases'], 0))->toBe(
            RandomFormulas::make($this->trees->design()),
        );
    });

    it('lets nothing of a text reach the statement', function (string $text, mixed $expected): void {
        expect(($this->ask)($text, 'UTC'))->toBe([true, $expected]);
    })->with([
        ['"\') OR 1=1 -- "', "') OR 1=1 -- "],
        ['"a\\\\" ~ "\'b"', "a\\'b"],
        ['length("%_\\\\")', 3.0],
        ['note contains "\' OR \'"', false],
    ]);
});
