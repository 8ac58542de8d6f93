<?php

declare(strict_types=1);

namespace App\Flags;

use App\Layers\LayerRows;
use App\Layers\PlaceSql;
use App\Models\Layer;
use PinYard\Flag\FlagRules;
use PinYard\Flag\Nearby;
use PinYard\Geo\Geodesic;
use stdClass;

/** Records beside which others are looked at: those close by, and those that the same person made before and after. */
final readonly class FlagNeighbours
{
    /** Where more lie in one place, these tell as much. */
    private const MOST = 50;

    private const COLUMNS = ['id', 'lon', 'lat', 'accuracy', 'collected_at', 'created_by', 'accepted_at'];

    public function __construct(private Layer $layer, private FlagRules $rules)
    {
    }

    /**
     * @param  stdClass  $row  of the layer's table
     * @return array{Nearby|null, list<string>} the nearest of those collected before it; those that wait and were
     *     collected after it (16 bytes each)
     */
    public function near(stdClass $row): array
    {
        if ($this->rules->double === null || $row->lon === null) {
            return [null, []];
        }
        $at = new \DateTimeImmutable($row->collected_at);
        $hours = $this->rules->double['hours'];
        $query = LayerRows::live($this->layer);
        // A little wider than is told: the distance is reckoned flat here, and true below.
        PlaceSql::around(
            $query,
            (string) $query->getGrammar()->getValue($query->from),
            $row->lon,
            $row->lat,
            $this->rules->double['metres'] * 1.01,
        );
        $found = $query->where('id', '!=', $row->id)
            ->whereBetween('collected_at', [
                $at->modify("-$hours hours")->format('Y-m-d H:i:s.v'),
                $at->modify("+$hours hours")->format('Y-m-d H:i:s.v'),
            ])
            ->limit(self::MOST)->get(self::COLUMNS);
        $nearest = null;
        $after = [];
        foreach ($found as $other) {
            if (self::isBefore($other, $row)) {
                $near = self::between($other, $row);
                $nearest = $nearest === null || $near->metres < $nearest->metres ? $near : $nearest;
            } elseif ($other->accepted_at === null) {
                $after[] = (string) $other->id;
            }
        }

        return [$nearest, $after];
    }

    /**
     * @param  list<stdClass>  $rows  also such as are gone, or have no fix any more
     * @return array{array<string, Nearby>, list<string>} by id (16 bytes): the record that the same person made before
     *     with a fix; those that wait and were made next after one of these
     */
    public function steps(array $rows): array
    {
        $before = $after = [];
        if ($this->rules->speed === null) {
            return [$before, $after];
        }
        $ofPeople = [];
        foreach ($rows as $row) {
            if ($row->created_by !== null) {
                $ofPeople[$row->created_by][$row->id] = $row;
            }
        }
        foreach ($ofPeople as $person => $own) {
            $walk = $this->walk((int) $person, array_column($own, 'collected_at'));
            foreach ($walk as $i => $row) {
                if ($i > 0 && isset($own[$row->id])) {
                    $before[$row->id] = self::between($walk[$i - 1], $row);
                }
            }
            foreach ($own as $row) {
                $next = self::next($walk, $row);
                if ($next !== null && $next->accepted_at === null) {
                    $after[] = (string) $next->id;
                }
            }
        }

        return [$before, $after];
    }

    /**
     * @param  non-empty-array<string>  $moments  UTC, as the database has them
     * @return list<stdClass> what a person made around them with a fix, in the order of time
     */
    private function walk(int $person, array $moments): array
    {
        $reach = FlagRules::STEP_HOURS;

        return array_values(
            LayerRows::live($this->layer)->where('created_by', $person)->whereNotNull('accuracy')
                ->whereBetween('collected_at', [
                    (new \DateTimeImmutable(min($moments)))->modify("-$reach hours")->format('Y-m-d H:i:s.v'),
                    (new \DateTimeImmutable(max($moments)))->modify("+$reach hours")->format('Y-m-d H:i:s.v'),
                ])
                ->orderBy('collected_at')->orderBy('id')->get(self::COLUMNS)->all(),
        );
    }

    /**
     * @param  list<stdClass>  $walk  in the order of time
     * @return stdClass|null the first of them that was made after a row
     */
    private static function next(array $walk, stdClass $row): ?stdClass
    {
        // By halves: a walk may be long, and so may be the list of rows.
        [$low, $high] = [0, count($walk)];
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            self::isBefore($row, $walk[$middle]) ? $high = $middle : $low = $middle + 1;
        }

        return $walk[$low] ?? null;
    }

    /** Of two that were collected in one moment one is the first all the same. */
    private static function isBefore(stdClass $one, stdClass $other): bool
    {
        return [$one->collected_at, $one->id] < [$other->collected_at, $other->id];
    }

    private static function between(stdClass $first, stdClass $second): Nearby
    {
        $seconds = (float) (new \DateTimeImmutable($second->collected_at))->format('U.v')
            - (float) (new \DateTimeImmutable($first->collected_at))->format('U.v');

        return new Nearby(
            $first->id,
            Geodesic::metres($first->lon, $first->lat, $second->lon, $second->lat),
            abs($seconds),
            ($first->accuracy ?? 0.0) + ($second->accuracy ?? 0.0),
        );
    }
}
