<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Designs\SharedLists;
use App\Models\ChoiceList;
use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Design\Field;
use PinYard\Design\SharedList;
use PinYard\Refused;

final class ListController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/lists',
            summary: 'Choice lists that fields of a programme share',
            tags: ['Designs'],
            responses: [new OA\Response(response: 200, description: 'The lists')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        return new JsonResponse(
            ChoiceList::query()
                ->where('programme_id', $programme->id)
                ->with('programme')
                ->orderBy('title')
                ->get()
                ->map($this->present(...))
                ->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/lists',
            summary: 'Make a shared choice list',
            tags: ['Designs'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['title', 'choices'],
                    properties: [
                        new OA\Property(property: 'title', type: 'string'),
                        new OA\Property(property: 'choices', type: 'array', items: new OA\Items(type: 'object')),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The list')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        $read = SharedList::read($request->json()->all());
        $list = new ChoiceList(['title' => $read->title, 'choices' => $read->toArray(), 'version' => 1]);
        $list->programme()->associate($programme);
        $list->save();

        return new JsonResponse($this->present($list), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/lists/{list}',
            summary: 'A shared choice list, with the fields that use it',
            tags: ['Designs'],
            responses: [new OA\Response(response: 200, description: 'The list')],
        ),
    ]
    public function show(ChoiceList $list): JsonResponse
    {
        return new JsonResponse($this->present($list));
    }

    #[
        OA\Post(
            path: '/api/v1/lists/{list}/review',
            summary: 'Which choices would leave the list although records carry them',
            tags: ['Designs'],
            responses: [new OA\Response(response: 200, description: 'The choices, with counts')],
        ),
    ]
    public function review(Request $request, ChoiceList $list): JsonResponse
    {
        return new JsonResponse([
            'current' => $list->version,
            'missed' => SharedLists::missed($list, SharedList::read($request->json()->all())),
        ]);
    }

    #[
        OA\Put(
            path: '/api/v1/lists/{list}',
            summary: 'Change a shared list; every layer that uses it gets a new design',
            tags: ['Designs'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['base', 'title', 'choices'],
                    properties: [
                        new OA\Property(
                            property: 'base',
                            description: 'version that the change began from',
                            type: 'integer',
                        ),
                        new OA\Property(property: 'title', type: 'string'),
                        new OA\Property(property: 'choices', type: 'array', items: new OA\Items(type: 'object')),
                        new OA\Property(
                            property: 'moves',
                            description: 'code that leaves to the code that its records get',
                            type: 'object',
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The list')],
        ),
    ]
    public function update(Request $request, ChoiceList $list): JsonResponse
    {
        $in = $request->json()->all();
        SharedLists::save(
            $list,
            SharedList::read($in),
            is_int($in['base'] ?? null) ? $in['base'] : 0,
            is_array($in['moves'] ?? null) ? $in['moves'] : [],
            SignedIn::of($request),
        );

        return new JsonResponse($this->present($list->refresh()));
    }

    #[
        OA\Delete(
            path: '/api/v1/lists/{list}',
            summary: 'Remove a shared list that no field uses',
            tags: ['Designs'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function destroy(ChoiceList $list): Response
    {
        $used = SharedLists::usedBy($list);
        if ($used !== []) {
            throw Refused::because('list_used', null, $list->title, [
                'list' => $list->title,
                'fields' => implode(
                    ', ',
                    array_map(static fn (array $u): string => "{$u[0]->title}: {$u[1]->label}", $used),
                ),
            ]);
        }
        $list->delete();

        return response()->noContent();
    }

    /** @return array<string, mixed> */
    private function present(ChoiceList $list): array
    {
        return [
            'id' => $list->id,
            'title' => $list->title,
            'version' => $list->version,
            'choices' => $list->choices,
            'used_by' => array_map(static fn (array $u): array => self::use(...$u), SharedLists::usedBy($list)),
        ];
    }

    /** @return array<string, mixed> */
    private static function use(Layer $layer, Field $field): array
    {
        return ['layer' => $layer->id, 'title' => $layer->title, 'key' => $field->key, 'label' => $field->label];
    }
}
