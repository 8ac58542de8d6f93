<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use App\Models\Layer;
use App\Models\Programme;
use App\Rights\Viewer;
use App\Rights\WorkSeen;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Board\Figure;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\Step;
use PinYard\Filter\Subject;
use PinYard\Refused;

/**
 * How far and how long people were out, by the trails of their phones. Whoever does not coordinate the programme is
 * told of their own alone, and a link nothing, unless more was said ({@see WorkSeen}).
 */
final readonly class EffortFigures
{
    private const METRES = 1_000;

    private const SECONDS = 3_600;

    /**
     * @param  array<string, Pick>  $picks
     * @param  \Closure(bool): void  $heard  is told of each pick whether it says something of effort
     * @param  \Closure(int): Layer  $layer  by number
     */
    public function __construct(
        private Programme $programme,
        private Viewer $viewer,
        private array $picks,
        private \Closure $heard,
        private \Closure $layer,
    ) {
    }

    /**
     * @param  list<Grouping>  $by
     * @return list<array{list<string|null>, Figure}> `n` counts the days that somebody was out
     *
     * @throws Refused where it cannot be put together so
     */
    public function by(Reading $reading, Measure $measure, array $by): array
    {
        $rows = $this->days($reading, array_filter(
            $by,
            static fn (Grouping $g): bool => $g->key === Grouping::PERSON,
        ) !== []);
        if (($by[0]->areas ?? null) !== null) {
            return $this->inAreas($rows, $measure, ($this->layer)($by[0]->areas));
        }
        $select = ['count(*) as n', 'sum(metres) as metres', 'sum(seconds) as seconds'];
        foreach ($by as $i => $grouping) {
            $select[] = self::group($grouping).' as g'.$i;
            $rows->groupBy("g$i");
        }
        $groups = [];
        foreach ($rows->selectRaw(implode(', ', $select))->get() as $row) {
            $n = (int) $row->n;
            $value = self::told($measure, (float) $row->metres, (float) $row->seconds);
            if ($n > 0) {
                $groups[] = [
                    array_map(
                        static fn (int $i): ?string => $row->{"g$i"} === null ? null : (string) $row->{"g$i"},
                        array_keys($by),
                    ),
                    new Figure($value, $n, $n),
                ];
            }
        }

        return $groups;
    }

    private static function told(Measure $measure, float $metres, float $seconds): float
    {
        return $measure->kind === MeasureKind::Walked ? $metres / self::METRES : $seconds / self::SECONDS;
    }

    /**
     * A step belongs to the areas that its middle lies in.
     *
     * @return list<array{list<string|null>, Figure}>
     *
     * @throws Refused where the viewer may not know the areas, or there is too much to go through
     */
    private function inAreas(Builder $rows, Measure $measure, Layer $areas): array
    {
        [$ids, $rings] = FiguresInAreas::areas($this->viewer, $areas);
        $days = $rows->get(['d.user_id', 'd.day'])
            ->map(static fn (object $r): string => "$r->user_id $r->day")->all();
        $groups = [];
        $found = StepsInAreas::of($this->programme, array_values($days), $rings);
        foreach ($found as $area => [$metres, $seconds, $out]) {
            $groups[] = [[$ids[$area]], new Figure(self::told($measure, $metres, $seconds), $out, $out)];
        }

        return $groups;
    }

    /** @throws Refused */
    private static function group(Grouping $by): string
    {
        return match (true) {
            $by->step === Step::Day => "date_format(day, '%Y-%m-%d')",
            $by->step === Step::Week => "date_format(date_sub(day, interval weekday(day) day), '%Y-%m-%d')",
            $by->step === Step::Month => "date_format(day, '%Y-%m-01')",
            $by->step === Step::Year => "date_format(day, '%Y-01-01')",
            $by->key === Grouping::CREW => 'm.crew_id',
            $by->key === Grouping::PERSON => 'd.user_id',
            default => throw Refused::because('effort_by', 'by', $by->key),
        };
    }

    /** @param  bool  $byPerson  whether it would say who is who: all of that is told to coordinators alone */
    private function days(Reading $reading, bool $byPerson): Builder
    {
        $person = $this->viewer->person;
        $all = WorkSeen::tellsAll($this->viewer, $this->programme, WorkSeen::TRAILS) && (! $byPerson ||
            ($person !== null && $this->programme->memberFor($person)?->coordinates() === true));
        if ($person === null && ! $all) {
            throw Refused::because('tile_hidden', 'measure');
        }
        $rows = DB::table('trail_days as d')
            ->leftJoin('members as m', static fn ($join) => $join
                ->on('m.user_id', '=', 'd.user_id')
                ->on('m.programme_id', '=', 'd.programme_id'))
            ->where('d.programme_id', $this->programme->id)
            // Of a past day that is looked at, nothing after it.
            ->where('d.day', '<=', $this->programme->today());
        if (! $all) {
            $rows->where('d.user_id', $person?->id);
        }
        self::between($rows, $reading->from, $reading->to);
        foreach ($this->picks as $pick) {
            foreach ($pick->conditions as $condition) {
                $this->follow($rows, $condition);
            }
        }

        return $rows;
    }

    private static function between(Builder $rows, ?string $from, ?string $to): void
    {
        $rows->when($from !== null, static fn (Builder $q) => $q->where('day', '>=', $from))
            ->when($to !== null, static fn (Builder $q) => $q->where('day', '<=', $to));
    }

    /** @param  array<string, mixed>  $condition */
    private function follow(Builder $rows, array $condition): void
    {
        $value = $condition['value'] ?? null;
        $days = is_array($value) && ($condition['test'] ?? null) === 'between' && count($value) === 2
            && is_string($value[0]) && is_string($value[1]) && preg_match('/^\d{4}-\d\d-\d\d$/D', $value[0]) === 1;
        if (($condition['field'] ?? null) === Subject::CREW && is_array($value)) {
            $rows->whereIn('m.crew_id', $value);
        } elseif ($days) {
            self::between($rows, $value[0], $value[1]);
        } else {
            ($this->heard)(false);

            return;
        }
        ($this->heard)(true);
    }
}
