<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Board\Filter;
use PinYard\Board\SliceName;

final class SliceController
{
    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/slices',
            summary: 'Slices of a layer',
            tags: ['Slices'],
            responses: [new OA\Response(response: 200, description: 'The slices')],
        ),
    ]
    public function index(Layer $layer): JsonResponse
    {
        return new JsonResponse(
            $layer
                ->slices()
                ->orderBy('name')
                ->get(['id', 'name', 'filter']),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/slices',
            summary: 'Make a slice',
            description: 'Without a name it gets one from its rule.',
            tags: ['Slices'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['filter'],
                    properties: [
                        new OA\Property(property: 'name', type: 'string', nullable: true),
                        new OA\Property(property: 'filter', ref: '#/components/schemas/Filter'),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The slice')],
        ),
    ]
    public function store(Request $request, Layer $layer): JsonResponse
    {
        $name = trim((string) ($request->validate(['name' => ['nullable', 'string', 'max:190']])['name'] ?? ''));
        $design = $layer->design();
        $filter = Filter::read($request->json('filter'), $design);
        if ($name === '') {
            $phrases = array_map(
                static fn (array $p): string => Texts::of("slice.{$p['code']}", $p['params']),
                SliceName::phrases($filter, $design),
            );
            $name = mb_substr(implode(', ', $phrases), 0, 190);
        }
        $slice = $layer->slices()->create(['name' => $name, 'filter' => $filter->toArray()]);

        return new JsonResponse(['id' => $slice->id, 'name' => $slice->name, 'filter' => $slice->filter], 201);
    }
}
