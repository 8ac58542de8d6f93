<?php

declare(strict_types=1);

namespace App\Publish;

use App\Layers\PlaceColumns;
use App\Models\Layer;
use App\Models\User;
use App\Records\AreasOfRecords;
use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use Illuminate\Http\Request;
use PinYard\Audience\Blur;
use PinYard\Audience\CellOutline;
use PinYard\Audience\TouchedCells;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Refused;

/** What becomes of the place of one record of a layer: to be looked at before a rule is saved. */
final readonly class PlaceTold
{
    /** So many records are gone through for one that lies in an area, and for those that lie in none. */
    private const TRIED = 20_000;

    private function __construct(private User $person, private Layer $layer)
    {
    }

    /**
     * @return array{was: array<string, mixed>, told: array<string, mixed>|null, least: int|null, most: int|null,
     *     outside: int, of: int} the record's shape, or the middle of the programme where the layer has none; around
     *     what is told instead, null where no area is; metres of the sides of cells; of how many records how many are
     *     told no place
     *
     * @throws Refused
     */
    public static function of(User $person, Layer $layer, Request $request): array
    {
        $one = new self($person, $layer);
        $areas = $request->query('areas');

        return $areas === null ? $one->inCells($request->query('metres')) : $one->inArea($areas);
    }

    /**
     * @return array{was: array<string, mixed>, told: array<string, mixed>, least: int, most: int, outside: int,
     *     of: int}
     */
    private function inCells(mixed $metres): array
    {
        $metres = is_string($metres) && preg_match('/^\d{1,7}$/D', $metres) === 1 ? (int) $metres : 0;
        if ($metres < Blur::LEAST || $metres > Blur::MOST) {
            throw Refused::because('audience_metres', 'metres', $metres, [
                'least' => Blur::LEAST, 'most' => Blur::MOST,
            ]);
        }
        $blur = Blur::of($metres);
        $row = $this->rows()->first();
        $shape = $row === null
            ? Shape::point($this->middle())
            : PlaceColumns::shape($row, $this->layer->design()->geometry);
        [$least, $most] = $blur->sizeAt($shape->place->lon, $shape->place->lat);

        return [
            'was' => $shape->toGeoJson(),
            'told' => [
                'type' => 'MultiPolygon',
                'coordinates' => CellOutline::of(TouchedCells::of($shape, $blur)),
            ],
            'least' => $least,
            'most' => $most,
            'outside' => 0,
            'of' => 0,
        ];
    }

    /**
     * @return array{was: array<string, mixed>, told: array<string, mixed>|null, least: null, most: null,
     *     outside: int, of: int}
     */
    private function inArea(mixed $areas): array
    {
        $known = array_column(SeenBy::areas($this->layer), 'id');
        if (! is_string($areas) || ! in_array((int) $areas, $known, true)) {
            throw Refused::because('audience_areas', 'areas', is_string($areas) ? $areas : null);
        }
        $of = AreasOfRecords::of($this->layer, (int) $areas);
        $rows = array_values($this->rows()->limit(self::TRIED)->get(['id', 'lon', 'lat', 'z'])->all());
        [$first, $around, $inside] = $of->first($rows);
        $first ??= $rows[0] ?? null;
        $row = $first === null ? null : $this->rows()->where('id', $first->id)->first();

        return [
            'was' => $row === null
                ? Shape::point($this->middle())->toGeoJson()
                : PlaceColumns::shape($row, $this->layer->design()->geometry)->toGeoJson(),
            'told' => $around,
            'least' => null,
            'most' => null,
            'outside' => count($rows) - $inside,
            'of' => count($rows),
        ];
    }

    private function rows(): Builder
    {
        return VisibleRecords::for($this->person, $this->layer)->rows()->whereNotNull('lon')->orderBy('id');
    }

    private function middle(): Position
    {
        $area = $this->layer->programme->area();

        return Position::of(
            $area->west + fmod($area->east - $area->west + 360, 360) / 2,
            ($area->south + $area->north) / 2,
        );
    }
}
