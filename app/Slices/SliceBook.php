<?php

declare(strict_types=1);

namespace App\Slices;

use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Models\Alert;
use App\Models\Board;
use App\Models\Crew;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Slice;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Filter\Condition;
use PinYard\Filter\Filter;
use PinYard\Filter\SliceName;
use PinYard\Filter\Subject;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** Rules on the records of a layer: read with what they name, called by what they say, told where they are used. */
final readonly class SliceBook
{
    public function __construct(private Layer $layer)
    {
    }

    /**
     * A rule whose crews and areas are there, in this programme.
     *
     * @throws Refused
     */
    public function read(mixed $document): Filter
    {
        $filter = $this->layer->filter($document);
        foreach ($filter->conditions() as $condition) {
            $wanted = match ($condition->subject->key) {
                Subject::CREW => count($condition->values()),
                Subject::PLACE => $condition->test === \PinYard\Filter\Test::InArea ? 1 : 0,
                default => 0,
            };
            if ($wanted > count($this->called($condition))) {
                throw Refused::because(
                    $condition->subject->key === Subject::CREW ? 'filter_crew' : 'filter_area',
                    'filter',
                );
            }
        }

        return $filter;
    }

    public function nameFor(Filter $filter): string
    {
        return (new SliceName(
            static fn (string $code, array $params): string => Texts::of("slice.$code", $params),
            $this->called(...),
        ))->of($filter);
    }

    /** @return list<string> what the crews or the area of a condition are called; those that are gone are left out */
    private function called(Condition $condition): array
    {
        if ($condition->subject->key === Subject::CREW) {
            return array_values(
                Crew::query()
                    ->where('programme_id', $this->layer->programme_id)
                    ->whereIn('id', $condition->values())
                    ->orderBy('name')
                    ->get(['name'])
                    ->map(static fn (Crew $c): string => $c->name)
                    ->all(),
            );
        }
        $value = is_array($condition->value) ? $condition->value : [];
        $areas = Layer::areasOf($this->layer->programme)->firstWhere('id', $value['layer'] ?? 0);
        $row = $areas === null ? null : LayerRows::live($areas)
            ->where('id', RecordId::of($value['record'] ?? null)->bytes())
            ->first();

        return $areas === null || $row === null
            ? []
            : [StoredRow::name($areas->design(), $row) ?? Texts::of('record.unnamed')];
    }

    /** @return list<string> titles of maps, of boards whose tiles, and names of alerts, that go by a slice */
    public function usersOf(Slice $slice): array
    {
        $maps = Map::query()
            ->whereIn('id', DB::table('map_layers')->where('slice_id', $slice->id)->select('map_id'))
            ->orderBy('title')
            ->pluck('title')
            ->all();

        return array_values([
            ...$maps,
            ...Board::query()
                ->where('programme_id', $this->layer->programme_id)
                ->orderBy('title')
                ->get(['id', 'title', 'tiles'])
                ->filter(static fn (Board $b): bool => in_array($slice->id, self::slicesIn($b->tiles), true))
                ->map(static fn (Board $b): string => $b->title)
                ->all(),
            ...Alert::query()
                ->where('programme_id', $this->layer->programme_id)
                ->orderBy('name')
                ->get(['id', 'name', 'plan'])
                ->filter(static fn (Alert $a): bool => in_array($slice->id, self::slicesIn($a->plan), true))
                ->map(static fn (Alert $a): string => $a->name)
                ->all(),
        ]);
    }

    /**
     * @param  array<mixed>  $document  tiles, or a part of one
     * @return list<int> numbers of all slices that it names, wherever they stand
     */
    public static function slicesIn(array $document): array
    {
        $slices = [];
        foreach ($document as $key => $part) {
            if ($key === 'slice' && is_int($part)) {
                $slices[] = $part;
            } elseif (is_array($part)) {
                array_push($slices, ...self::slicesIn($part));
            }
        }

        return $slices;
    }
}
