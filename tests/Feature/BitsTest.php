<?php

declare(strict_types=1);

use App\Boards\Figures\BitFigures;
use App\Boards\Figures\EffortFigures;
use App\Boards\Figures\SqlFigures;
use App\Models\Layer;
use App\Models\Role;
use App\Models\User;
use App\Records\Bits\BitLayer;
use App\Records\Bits\BuildBits;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;
use PinYard\Bits\NotByBits;
use PinYard\Board\BoardContext;
use PinYard\Board\Figure;
use PinYard\Board\Figures;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\Quantity;
use PinYard\Board\Reading;
use PinYard\Board\TileInput;
use PinYard\Filter\Filter;
use PinYard\Filter\Subject;
use PinYard\Filter\Test;
use PinYard\Stats\Distribution;

/* What large layers are told by bits, against the same asked of the database. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    // Its clocks are moved by half an hour.
    $this->field = $this->programme($this->head);
    $this->field->update(['time_zone' => 'Australia/Lord_Howe']);
    [$this->crew, $this->other] = array_map(function (string $name): User {
        $person = $this->person($name);
        $crew = $this->field->crews()->create(['name' => $name]);
        $this->field->members()->create(['user_id' => $person->id, 'role' => Role::Crew, 'crew_id' => $crew->id]);
        $this->crews[] = $crew->id;

        return $person;
    }, ['Terns', 'Petrels']);
    $this->codes = ['a', 'b', 'c', 'd'];
    $choices = array_map(static fn (string $c): array => ['code' => $c, 'label' => strtoupper($c)], $this->codes);
    $this->layer = $this->layer($this->field, [
        'title' => 'Sites',
        'rights' => ['crew' => ['see' => 'own']],
        'fields' => [
            ['key' => 'kind', 'label' => 'Kind', 'kind' => 'one_choice', 'choices' => $choices],
            ['key' => 'seen', 'label' => 'Seen', 'kind' => 'several_choices', 'choices' => $choices],
            ['key' => 'sound', 'label' => 'Sound', 'kind' => 'yes_no'],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'girth', 'label' => 'Girth', 'kind' => 'decimal'],
            ['key' => 'laid', 'label' => 'Laid', 'kind' => 'date'],
            ['key' => 'rung', 'label' => 'Rung', 'kind' => 'date_time'],
        ],
    ]);
    $this->row = function (int $id, int $number): array {
        $maybe = static fn (mixed $value): mixed => random_int(0, 5) === 0 ? null : $value;
        $some = array_values(array_filter($this->codes, static fn (): bool => random_int(0, 1) === 1));

        return [
            'id' => (string) hex2bin(sprintf('018f00000000700080%014x', $id)),
            'lon' => 1, 'lat' => 1, 'z' => $id, 'version' => 1, 'change_number' => $number, 'design_version' => 1,
            'created_by' => [null, $this->crew->id, $this->other->id, $this->head->id][random_int(0, 3)],
            // Around the night on which clocks go back there.
            'collected_at' => gmdate('Y-m-d H:i:s.', 1775300000 + random_int(-200_000, 200_000)).random_int(100, 999),
            'received_at' => '2026-05-01 00:00:00',
            'f_kind' => $maybe([...$this->codes, 'gone'][random_int(0, 4)]),
            'f_seen' => $maybe(implode(',', $some)),
            'f_sound' => $maybe(random_int(0, 1)),
            'f_eggs' => $maybe(random_int(-3, 12)),
            'f_girth' => $maybe(random_int(-4_000, 90_000) / 100),
            'f_laid' => $maybe(gmdate('Y-m-d', 1767225600 + 86_400 * random_int(0, 500))),
            'f_rung' => $maybe(gmdate('Y-m-d H:i:s', 1759572000 + random_int(-200_000, 200_000))),
        ];
    };
    $this->insert = function (int $from, int $to, int $number): void {
        $rows = array_map(fn (int $id): array => ($this->row)($id, $number++), range($from, $to));
        DB::table($this->layer->table())->insert($rows);
        Layer::query()->whereKey($this->layer->id)->update(['change_number' => $number - 1]);
        $this->layer = Layer::query()->findOrFail($this->layer->id);
    };
    /** Records are changed, deleted and restored all over the layer. */
    $this->change = function (int $of, int $count): void {
        $number = $this->layer->change_number;
        foreach ((array) array_rand(array_flip(range(1, $of)), $count) as $id) {
            $row = ($this->row)($id, ++$number);
            unset($row['z']);
            DB::table($this->layer->table())->where('id', $row['id'])
                ->update($row + ['deleted' => random_int(0, 3) === 0]);
        }
        Layer::query()->whereKey($this->layer->id)->update(['change_number' => $number]);
        $this->layer = Layer::query()->findOrFail($this->layer->id);
    };
    $this->build = fn () => (new BuildBits($this->layer->id, 0))->handle();
    $never = new class implements Figures
    {
        public function of(Reading $reading, array $measures): array
        {
            throw new NotByBits('asked');
        }

        public function by(Reading $reading, array $measures, Grouping ...$by): array
        {
            throw new NotByBits('asked');
        }

        public function least(): int
        {
            return 1;
        }

        public function spread(Reading $reading, Quantity $quantity): Distribution
        {
            throw new NotByBits('asked');
        }
    };
    /** @return array{Figures, Figures} by bits and nothing else, and by asking */
    $this->both = function (Viewer $viewer, Filter $filter) use ($never): array {
        $records = fn (): VisibleRecords => VisibleRecords::of($viewer, $this->layer)->filtered($filter);
        $bits = BitLayer::of($this->layer);

        return [
            new BitFigures($records, static fn (): ?BitLayer => $bits, $never),
            new SqlFigures(
                $records,
                fn (): Layer => $this->layer,
                new EffortFigures($this->field, $viewer, [], static function (): void {
                }, fn (): Layer => $this->layer),
            ),
        ];
    };
    $this->condition = function (): array {
        $subjects = array_values(array_filter(
            Subject::all($this->layer->design(), null),
            static fn (Subject $s): bool => $s->key !== Subject::PLACE,
        ));
        $subject = $subjects[array_rand($subjects)];
        $test = $subject->tests[array_rand($subject->tests)];
        $kind = $subject->field?->kind->value ?? $subject->key;
        $one = fn (): mixed => match ($kind) {
            'one_choice', 'several_choices' => $this->codes[array_rand($this->codes)],
            'yes_no', Subject::OWN, Subject::ACCEPTED => (bool) random_int(0, 1),
            'whole_number' => random_int(-5, 15),
            'decimal' => random_int(-5_000, 95_000) / [100, 1_000][random_int(0, 1)],
            Subject::CREW => $this->crews[random_int(0, 1)],
            'date' => gmdate('Y-m-d', 1767225600 + 86_400 * random_int(0, 500)),
            'date_time' => gmdate('Y-m-d', 1759572000 + random_int(-200_000, 200_000)),
            default => gmdate('Y-m-d', 1775300000 + random_int(-200_000, 200_000)),
        };
        if ($subject->key === Subject::OWN) {
            return ['field' => $subject->key, 'test' => 'is', 'value' => true];
        }
        $pair = [$one(), $one()];
        sort($pair);

        return ['field' => $subject->key, 'test' => $test->value] + match (true) {
            $test->isAlone() => [],
            $test === Test::Between => ['value' => $pair],
            $test === Test::OneOf || $test === Test::NoneOf => ['value' => array_values(array_unique($pair))],
            $test === Test::LastDays => ['value' => random_int(1, 400)],
            default => ['value' => $one()],
        };
    };
    $this->filter = function (int $depth = 0): array {
        $parts = [];
        for ($i = random_int(0, 3); $i > 0; $i--) {
            $parts[] = $depth < 2 && random_int(0, 2) === 0 ? ($this->filter)($depth + 1) : ($this->condition)();
        }

        return [['all', 'any', 'none'][random_int(0, 2)] => $parts];
    };
    $this->reader = new TileInput([], 'tile', new BoardContext(
        [$this->layer->id => $this->layer->design()],
        [],
        [],
        [],
    ));
    /** @return list<Measure> */
    $this->measures = function (): array {
        $measures = [['of' => 'count'], ['of' => 'distinct', 'field' => '@person'],
            ['of' => 'distinct', 'field' => 'kind'], ['of' => 'least', 'field' => 'laid'],
            ['of' => 'most', 'field' => 'laid'], ['of' => 'distinct', 'field' => 'laid'],
            ['of' => 'ratio', 'top' => ['of' => 'sum', 'field' => 'eggs'], 'bottom' => ['of' => 'count']]];
        foreach (['eggs', 'girth'] as $field) {
            foreach (['sum', 'mean', 'median', 'deviation', 'least', 'most', 'distinct'] as $of) {
                $measures[] = ['of' => $of, 'field' => $field];
            }
            $measures[] = ['of' => 'quantile', 'field' => $field, 'p' => random_int(0, 100) / 100];
        }
        shuffle($measures);

        return array_map(
            fn (array $m): Measure => Measure::read($m, $this->layer->id, $this->reader, 'measure'),
            array_slice($measures, 0, 4),
        );
    };
    /** @return list<Grouping> */
    $this->groupings = function (): array {
        $step = ['day', 'week', 'month', 'year'][random_int(0, 3)];
        $all = array_map(static fn (string $f): array => ['field' => $f], ['kind', 'seen', 'sound', 'eggs', '@crew',
            '@person']);
        foreach (['laid', 'rung', 'collected_at'] as $field) {
            $all[] = ['field' => $field, 'step' => $step];
        }
        shuffle($all);

        return array_map(
            fn (array $g): Grouping => Grouping::read($g, $this->layer->id, $this->reader, 'by'),
            array_slice($all, 0, random_int(0, 2)),
        );
    };
    /** @return array<string, list<mixed>> in an order of their own */
    $this->told = function (array $groups): array {
        $told = [];
        foreach ($groups as $group) {
            assert($group instanceof Group);
            $told[Group::nameOf($group->keys)] = array_map(
                static fn (Figure $f): array => [$f->value, $f->n, $f->known],
                $group->figures,
            );
        }
        ksort($told);

        return $told;
    };
    /*
     * Numbers to ten digits, by how far they lie apart: rounded first, two means on either side of half of the last
     * digit would differ.
     */
    $this->same = function (array $bits, array $sql, string $what): void {
        $near = static function (mixed $ours, mixed $theirs) use (&$near): mixed {
            if (is_array($ours) && is_array($theirs)) {
                foreach ($ours as $key => $value) {
                    $ours[$key] = array_key_exists($key, $theirs) ? $near($value, $theirs[$key]) : $value;
                }

                return $ours;
            }
            $numbers = is_float($ours) && (is_float($theirs) || is_int($theirs));

            return $numbers && abs($ours - $theirs) <= 1e-10 * max(1, abs($theirs)) ? $theirs : $ours;
        };
        expect($near($bits, $sql))->toEqual($sql, $what);
    };
    $this->compare = function (int $times): void {
        for ($i = 0; $i < $times; $i++) {
            $in = ($this->filter)();
            $filter = Filter::read($in, $this->layer->design());
            $viewer = Viewer::person($i % 4 === 0 ? $this->crew : $this->head);
            [$bits, $sql] = ($this->both)($viewer, $filter);
            $reading = new Reading($this->layer->id);
            [$measures, $by] = [($this->measures)(), ($this->groupings)()];
            $what = json_encode([
                $in,
                array_map(static fn (Measure $m): array => $m->toArray(), $measures),
                array_map(static fn (Grouping $g): array => $g->toArray(), $by),
            ]);
            ($this->same)(
                ($this->told)($bits->by($reading, $measures, ...$by)),
                ($this->told)($sql->by($reading, $measures, ...$by)),
                $what,
            );
            $quantity = Quantity::of(['eggs', 'girth'][$i % 2], $this->layer->design(), false);
            [$a, $b] = [$bits->spread($reading, $quantity), $sql->spread($reading, $quantity)];
            expect([$a->known(), $a->missing(), $a->least(), $a->most(), $a->counts([-1.5, 0.0, 3.0, 12.5, 400.25])])
                ->toEqual([$b->known(), $b->missing(), $b->least(), $b->most(),
                    $b->counts([-1.5, 0.0, 3.0, 12.5, 400.25])], $what);
            foreach ([[$a->mean(), $b->mean()], [$a->deviation(), $b->deviation()],
                [$a->quantile(0.3), $b->quantile(0.3)]] as [$ours, $theirs]) {
                expect($ours)->toEqualWithDelta($theirs, 1e-9 * max(1, abs($theirs)), $what);
            }
        }
    };
});

it('tells the same by bits as the database does, whatever is asked', function (): void {
    ($this->insert)(1, 700, 1);
    ($this->build)();
    ($this->compare)(120);
});

it('tells the same when records have come, changed, gone and come back since the file was built', function (): void {
    ($this->insert)(1, 600, 1);
    ($this->change)(600, 80);
    ($this->build)();
    ($this->insert)(601, 680, $this->layer->change_number + 1);
    ($this->change)(680, 150);
    // Beyond all that was there, on either side, and a choice that nobody had.
    DB::table($this->layer->table())->where('change_number', '>', $this->layer->change_number - 60)->where('f_sound', 1)
        ->update(['f_eggs' => -70_000, 'f_girth' => 1e6, 'f_laid' => '1998-02-03', 'f_kind' => 'new']);
    ($this->compare)(120);
});
