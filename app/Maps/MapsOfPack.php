<?php

declare(strict_types=1);

namespace App\Maps;

use App\Maps\Tallies\TallyText;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Slice;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Rights\ShownTo;
use PinYard\Carto\LayerOnMap;
use PinYard\Carto\Marks\Crossed;
use PinYard\Carto\Marks\Density;
use PinYard\Carto\Marks\Shades;
use PinYard\Carto\Tally;

/** The maps of a programme, as a phone draws them from its own records; layers of other programmes are not there. */
final class MapsOfPack
{
    /** @return list<array<string, mixed>> */
    public static function of(Programme $programme, User $person): array
    {
        $maps = ShownTo::mapsOf($programme, $person)->load(['mapped', 'counted']);
        $layers = $programme->layers()->get()->keyBy('id');
        $told = [];
        foreach ($maps as $map) {
            $map->setRelation('programme', $programme);
            $there = new LayersOfMap($map);
            $parts = [];
            foreach ($map->layers as $document) {
                $layer = $layers[$document['layer']] ?? null;
                $slice = $there->slice($document['slice'] ?? null, $layer);
                // Without its slice a part would show more than it was made to show.
                if ($layer instanceof Layer && (($document['slice'] ?? null) === null || $slice !== null)) {
                    $parts[] = self::part($there->part($document, $layer), $layer, $slice, $there, $person);
                }
            }
            // A map of which nothing is on the phone is not there, either.
            if ($parts !== []) {
                $told[] = [
                    'id' => $map->id,
                    'title' => $map->title,
                    'layers' => $parts,
                    'extent' => $map->extent,
                    'viewpoints' => $map->viewpoints ?? [],
                    'searches' => self::searches($map, $there, $parts),
                ];
            }
        }

        return $told;
    }

    /**
     * What can be asked of it, of the parts that are on the phone.
     *
     * @param  list<array<string, mixed>>  $parts
     * @return list<array<string, mixed>>
     */
    private static function searches(Map $map, LayersOfMap $there, array $parts): array
    {
        $layers = array_column($parts, 'layer', 'id');
        $told = [];
        foreach ($map->searches ?? [] as $search) {
            $layer = $there->layer($layers[$search['part']] ?? 0);
            $slice = $layer === null ? null : $there->slice($search['slice'], $layer);
            if ($slice !== null) {
                $told[] = [
                    'id' => $search['id'],
                    'title' => $search['title'],
                    'part' => $search['part'],
                    'slice' => self::rule($slice),
                ];
            }
        }

        return $told;
    }

    /** @return array<string, mixed> */
    private static function part(
        LayerOnMap $part,
        Layer $layer,
        ?Slice $slice,
        LayersOfMap $there,
        User $person,
    ): array {
        $tally = $part->look->tally();
        $counted = $tally === null ? null : $there->layer($tally->layer);
        $records = $counted === null ? null : VisibleRecords::for($person, $counted);
        if ($records !== null && ($records->seesNothing() || ! $records->areToldIn($layer))) {
            // Its breaks and its name would tell of records that are closed, its colours count them where they are not.
            [$part, $tally] = [$part->uncoloured(), null];
        }

        return [
            'id' => $part->id,
            'layer' => $layer->id,
            'title' => $part->title ?? $layer->title,
            'look' => $part->look->toArray(),
            'style' => $part->style(LayerPage::source($part->id)),
            'gather' => $part->look->gather?->source(),
            ...self::told($part, $layer),
            'label' => $part->label === null
                ? null
                : $part->label->toArray() + ['trees' => (object) $part->label->trees()],
            'slice' => self::rule($slice),
            // Phones count for themselves, from the records that they have.
            'counted' => $tally === null || $counted === null ? null : self::counted($tally, $counted, $there),
            'card' => $part->toArray()['card'] + ['trees' => (object) $part->text->trees()],
            'visible' => $part->visible,
            'in_legend' => $part->inLegend,
        ];
    }

    /**
     * What its marks mean, in words, where phones do not say it themselves.
     *
     * @return array{by: string|null, legend: list<array<string, mixed>>|null}
     */
    private static function told(LayerOnMap $part, Layer $layer): array
    {
        $marks = $part->look->marks;

        return $marks instanceof Shades || $marks instanceof Crossed || $marks instanceof Density
            ? [
                'by' => MarksText::of($marks, $layer, $part->title ?? $layer->title),
                // Where records are only counted there is none without a number.
                'legend' => LegendText::of($part->look, $marks->fields() === [] ? [] : ['' => 1]),
            ]
            : ['by' => null, 'legend' => null];
    }

    /** @return array<string, mixed> */
    private static function counted(Tally $tally, Layer $counted, LayersOfMap $there): array
    {
        [$slice, $share] = [$there->slice($tally->slice, $counted), $there->slice($tally->share, $counted)];

        return [
            'slice' => self::rule($slice),
            'share' => self::rule($share),
            'by' => TallyText::of($tally, $counted, $slice, $share),
            'unit' => TallyText::unit($tally),
            'few' => TallyText::few($tally, $counted),
        ];
    }

    /** @return array{name: string, filter: mixed}|null */
    private static function rule(?Slice $slice): ?array
    {
        return $slice === null ? null : ['name' => $slice->name, 'filter' => $slice->filter];
    }
}
