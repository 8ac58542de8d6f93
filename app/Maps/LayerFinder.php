<?php

declare(strict_types=1);

namespace App\Maps;

use App\Models\Layer;
use App\Models\Member;
use App\Models\Programme;
use App\Models\User;
use App\Programmes\Catalogue;
use App\Records\VisibleRecords;
use PinYard\Carto\LayerOnMap;

/** Finds layers to put on a map, of all that somebody sees in their programmes: what is at hand comes first. */
final readonly class LayerFinder
{
    private const MOST = 60;

    public function __construct(private User $person, private Programme $programme)
    {
    }

    /**
     * @param  string  $text  words; each must be in the title, the purpose, the tags or the programme's name
     * @return array{layers: list<array<string, mixed>>, more: int} `more`: how many that fit are not told
     */
    public function find(string $text): array
    {
        $words = array_filter(preg_split('/\s+/u', mb_strtolower(trim($text))) ?: []);
        $programmes = Programme::query()
            ->whereIn(
                'id',
                Member::query()->where('user_id', $this->person->id)->select('programme_id'),
            )
            ->get()
            ->keyBy('id');
        Programme::knowMembers($programmes, $this->person);
        $stars = Catalogue::stars($this->person);
        $found = [];
        foreach (Layer::query()->whereIn('programme_id', $programmes->keys())->orderBy('title')->get() as $layer) {
            $programme = $programmes->get($layer->programme_id) ?? throw new \LogicException('a layer of no programme');
            $layer->setRelation('programme', $programme);
            $records = VisibleRecords::for($this->person, $layer);
            if ($records->seesNothing()) {
                continue;
            }
            $design = $layer->design();
            $told = mb_strtolower(implode(' ', [
                $layer->title,
                $design->purpose,
                $programme->name,
                ...$layer->tags ?? [],
                ...$layer->purposes ?? [],
            ]));
            foreach ($words as $word) {
                if (! str_contains($told, $word)) {
                    continue 2;
                }
            }
            $found[] = [$layer->programme_id === $this->programme->id, isset($stars["layer:$layer->id"]), $layer];
        }
        // Sorting is stable: what is alike stays by its title.
        usort($found, static fn (array $a, array $b): int => [$b[0], $b[1]] <=> [$a[0], $a[1]]);
        $told = array_slice($found, 0, self::MOST);
        $layers = array_map(static fn (array $f): Layer => $f[2], $told);
        $counts = VisibleRecords::counts($this->person, $layers);

        return [
            'layers' => array_map(
                fn (array $f): array => [
                    'id' => $f[2]->id,
                    'title' => $f[2]->title,
                    'programme' => $f[2]->programme->name,
                    'own' => $f[0],
                    'starred' => $f[1],
                    'geometry' => $f[2]->design()->geometry->value,
                    'records' => $counts[$f[2]->id][0],
                    // As it would first come to the map.
                    'part' => MapLayers::stored(
                        LayerOnMap::suggest(
                            LayerOnMap::newId(),
                            $f[2]->id,
                            VisibleRecords::for($this->person, $f[2])->design(),
                        ),
                        $f[2],
                    ),
                ],
                $told,
            ),
            'more' => count($found) - count($told),
        ];
    }
}
