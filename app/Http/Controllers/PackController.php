<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\KeptAnswer;
use App\Backdrops;
use App\Maps\MapsOfPack;
use App\Models\Layer;
use App\Models\Mark;
use App\Models\Outing;
use App\Models\Programme;
use App\Models\User;
use App\People\SignedIn;
use App\Plan\Outings;
use App\Programmes\PlacesOfPack;
use App\Records\VisibleRecords;
use App\Rights\LayerRights;
use App\Rights\ShownTo;
use App\Rights\Viewer;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Carto\Look;
use PinYard\Carto\Style\StyleLayers;
use PinYard\Design\ValueSchema;
use PinYard\Geo\Box;

/** What a phone needs to work without signal; the records themselves come with the sync round. */
final class PackController
{
    #[
        OA\Get(
            path: '/api/v1/packs',
            summary: 'The packs that I may carry',
            tags: ['Field app'],
            responses: [new OA\Response(response: 200, description: 'One pack for each programme')],
        ),
    ]
    public function __invoke(Request $request): JsonResponse|Response
    {
        $user = SignedIn::of($request);
        $programmes = Programme::query()->whereRelation('members', 'user_id', $user->id)->orderBy('name')->get();
        Programme::knowMembers($programmes, $user);
        $packs = $programmes
            ->map(static function (Programme $programme) use ($user): array {
                $layers = $programme->layers()->orderBy('title')->get()
                    ->filter(static fn (Layer $l): bool => LayerRights::of($user, $l)->maySee())->values();
                $counts = VisibleRecords::counts($user, $layers);

                return [
                    'programme' => $programme->id,
                    'name' => $programme->name,
                    'crew' => $programme->memberFor($user)?->crew?->name,
                    'time_zone' => $programme->time_zone,
                    'area' => $programme->area()->toArray(),
                    'photo_edge' => $programme->photo_edge,
                    'backdrops' => Backdrops::for($programme->area()),
                    'outings' => Outings::present(
                        $programme,
                        Outing::query()
                            ->where('programme_id', $programme->id)
                            ->where('ends_on', '>=', now($programme->time_zone)->subDays(1)->toDateString())
                            ->with('crew')
                            ->tap(static fn (Builder $q) => Outings::of($q, $programme, Viewer::person($user)))
                            ->orderBy('starts_on')
                            ->get(),
                        $user,
                    ),
                    'maps' => MapsOfPack::of($programme, $user),
                    'marks' => (object) self::marks($programme, $user),
                    'places' => PlacesOfPack::of($programme)->count(),
                    'layers' => $layers
                        ->map(static function (Layer $layer) use ($user, $counts): array {
                            $design = $layer->design();
                            $rights = LayerRights::of($user, $layer);
                            $look = Look::suggest($design);

                            return [
                                'id' => $layer->id,
                                'title' => $design->title,
                                'visits_of' => $layer->visits_of,
                                'design_version' => $layer->design_version,
                                'design' => $design->toArray(),
                                'name_field' => $design->nameField()?->key,
                                'value_schema' => ValueSchema::of($design),
                                'rules' => $design->rules->toArray(),
                                'look' => $look->toArray(),
                                'style' => StyleLayers::of($look, "layer-{$layer->id}"),
                                'records' => $counts[$layer->id][0],
                                'rights' => $rights->toArray(),
                                'seen' => VisibleRecords::for($user, $layer)->told(),
                            ];
                        })
                        ->all(),
                ];
            })
            ->all();

        return KeptAnswer::told($packs)->response($request);
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/packs/counts',
            summary: 'How many records of each layer lie in an area',
            tags: ['Field app'],
            parameters: [
                new OA\Parameter(
                    name: 'area',
                    in: 'query',
                    required: true,
                    description: 'west,south,east,north',
                    schema: new OA\Schema(type: 'string'),
                ),
            ],
            responses: [new OA\Response(response: 200, description: 'Records by layer')],
        ),
    ]
    public function counts(Request $request, Programme $programme): JsonResponse
    {
        $area = Box::fromText((string) $request->query('area', ''));

        return new JsonResponse(
            (object) $programme
                ->layers()
                ->get()
                ->mapWithKeys(static function (Layer $layer) use ($request, $area): array {
                    $seen = VisibleRecords::for(SignedIn::of($request), $layer);

                    return [
                        $layer->id => ($layer->visits_of === null
                            ? $seen->within($seen->rows(), $area)
                            : $seen->rows()
                        )->count(),
                    ];
                })
                ->all(),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/packs/places',
            summary: 'Places that a pack carries, to be found by name without signal',
            tags: ['Field app'],
            responses: [
                new OA\Response(response: 200, description: 'Rows of name, what it is of, longitude, latitude'),
            ],
        ),
    ]
    public function places(Programme $programme): JsonResponse
    {
        return new JsonResponse(PlacesOfPack::of($programme)->rows());
    }

    /**
     * The marks of one's own that this programme's designs, and the maps that somebody is shown, use; whole, for there
     * is no signal where they are drawn.
     *
     * @return array<string, string> data address by head
     */
    private static function marks(Programme $programme, User $user): array
    {
        $designs =
            $programme
                ->layers()
                ->get()
                ->map(
                    static fn (Layer $layer): string => (string) json_encode([
                        $layer->design()->toArray(),
                        Look::suggest($layer->design())->toArray(),
                    ]),
                )
                ->implode('').ShownTo::mapsOf($programme, $user)->pluck('layers')->toJson();
        preg_match_all('/own-([a-z0-9]{22})/', $designs, $found);

        return Mark::query()
            ->whereIn('token', array_unique($found[1]))
            ->get()
            ->mapWithKeys(
                static fn (Mark $m): array => [
                    "own-{$m->token}" => 'data:image/'.($m->type === 'svg' ? 'svg+xml'
                        : 'png').';base64,'.base64_encode($m->body),
                ],
            )
            ->all();
    }
}
