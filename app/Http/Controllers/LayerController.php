<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Designs\DesignReview;
use App\Designs\DesignStore;
use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use App\Records\VisibleRecords;
use App\Rights\LayerRights;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Carto\Look;
use PinYard\Design\LayerDesign;
use PinYard\Design\ValueSchema;
use PinYard\Formula\Formula;
use PinYard\Formula\Neighbours;
use PinYard\Refused;

final class LayerController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/layers',
            summary: 'Layers of a programme',
            tags: ['Layers'],
            responses: [new OA\Response(response: 200, description: 'The layers')],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        $person = SignedIn::of($request);
        $layers = $programme->layers()->orderBy('title')->get()
            ->filter(static fn (Layer $l): bool => LayerRights::of($person, $l)->maySee())->values();
        $counts = VisibleRecords::counts($person, $layers);

        return new JsonResponse(
            $layers
                ->map(function (Layer $layer) use ($counts): array {
                    $design = $layer->design();

                    return [
                        'id' => $layer->id,
                        'title' => $layer->title,
                        'purpose' => $design->purpose,
                        'geometry' => $design->geometry->value,
                        'visits_of' => $layer->visits_of,
                        'fields' => count($design->fields),
                        'design_version' => $layer->design_version,
                        'records' => $counts[$layer->id][0],
                        'peg' => Look::suggest($design)->legend([])[0],
                    ];
                })
                ->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/designs/check',
            summary: 'Check a design without saving it',
            description: 'Answers with the rules for its values, as the field app will use them, so that a form '
                .'can be tried.',
            tags: ['Designs'],
            parameters: [
                new OA\Parameter(
                    name: 'layer',
                    in: 'query',
                    description: 'the layer that it is a draft of, so that formulas may name its visits',
                    schema: new OA\Schema(type: 'integer'),
                ),
            ],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/LayerDesign'),
            ),
            responses: [new OA\Response(response: 200, description: 'The design is sound')],
        ),
    ]
    public function check(Request $request): JsonResponse
    {
        $layer = Layer::query()->find($request->integer('layer'));
        // Formulas may speak of visits where the layer has some; who may not see it learns nothing of them.
        $visits =
            $layer !== null && SignedIn::of($request)->can('view', $layer) ? $layer->neighbours() : Neighbours::none();
        $design = LayerDesign::fromArray($request->json()->all(), $visits);

        return new JsonResponse([
            'design' => $design->toArray(),
            'value_schema' => ValueSchema::of($design),
            'rules' => $design->rules->toArray(),
            'results' => $this->results($design),
            'look' => Look::suggest($design)->toArray(),
        ]);
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/layers',
            summary: 'Make a layer from a design',
            tags: ['Layers'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/LayerDesign'),
            ),
            responses: [new OA\Response(response: 201, description: 'The layer')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        $layer = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray($request->json()->all()),
            SignedIn::of($request),
        );

        return new JsonResponse($this->present($request, $layer), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}',
            summary: 'A layer with its design',
            tags: ['Layers'],
            responses: [new OA\Response(response: 200, description: 'The layer')],
        ),
    ]
    public function show(Request $request, Layer $layer): JsonResponse
    {
        return new JsonResponse($this->present($request, $layer));
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/design/review',
            summary: 'What a new design would do to the records that there are, and what others changed meanwhile',
            tags: ['Layers'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['base', 'design'],
                    properties: [
                        new OA\Property(property: 'base', type: 'integer'),
                        new OA\Property(property: 'design', ref: '#/components/schemas/LayerDesign'),
                        new OA\Property(property: 'decisions', type: 'object'),
                    ],
                ),
            ),
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'Effects with counts; a merged design where someone else saved first',
                ),
            ],
        ),
    ]
    public function review(Request $request, Layer $layer): JsonResponse
    {
        $document = $request->json('design');
        $base = $request->json('base');
        if (! is_array($document) || ! is_int($base)) {
            throw Refused::because('must_be_object', 'design');
        }

        return new JsonResponse(DesignReview::of($layer, $document, $base, (array) $request->json('decisions', [])));
    }

    #[
        OA\Put(
            path: '/api/v1/layers/{layer}/design',
            summary: 'Save the next version of a design',
            description: '409 when someone else saved a version since `base`.',
            tags: ['Designs'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['base', 'design'],
                    properties: [
                        new OA\Property(
                            property: 'base',
                            description: 'version that the change began from',
                            type: 'integer',
                        ),
                        new OA\Property(property: 'design', ref: '#/components/schemas/LayerDesign'),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The layer')],
        ),
    ]
    public function update(Request $request, Layer $layer): JsonResponse
    {
        $document = $request->json('design');
        if (! is_array($document)) {
            throw Refused::because('must_be_object', 'design');
        }
        $layer = DesignStore::saveNext(
            $layer,
            LayerDesign::fromArray($document, $layer->neighbours()),
            (int) $request->json('base'),
            SignedIn::of($request),
            (array) $request->json('decisions', []),
        );

        return new JsonResponse($this->present($request, $layer));
    }

    /** @return object what each calculated field gives, by key */
    private function results(LayerDesign $design): object
    {
        return (object) array_map(static fn (Formula $f): string => $f->type->value, $design->rules->formulas);
    }

    /** @return array<string, mixed> */
    private function present(Request $request, Layer $layer): array
    {
        $rights = LayerRights::of(SignedIn::of($request), $layer);
        $design = $layer->design();

        return [
            'id' => $layer->id,
            'programme' => $layer->programme_id,
            'design_version' => $layer->design_version,
            'visits_of' => $layer->visits_of,
            'visits_layer' => $layer->visitsLayer?->id,
            'design' => $design->toArray(),
            'value_schema' => ValueSchema::of($design),
            'rules' => $design->rules->toArray(),
            'results' => $this->results($design),
            'look' => Look::suggest($design)->toArray(),
            'seen' => VisibleRecords::for(SignedIn::of($request), $layer)->told(),
            'rights' => [
                'add' => $rights->mayAdd(),
                'design' => $rights->mayDesign(),
                'sees_all' => $rights->seesAll(),
                'change' => $rights->mayChange(null),
                'delete' => $rights->mayDelete(null),
            ],
        ];
    }
}
