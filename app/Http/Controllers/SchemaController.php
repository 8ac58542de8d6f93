<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\OpenApi\Description;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;

final class SchemaController
{
    #[
        OA\Get(
            path: '/schemas/layer-design.json',
            summary: 'The JSON Schema of a layer design',
            tags: ['Designs'],
            responses: [new OA\Response(response: 200, description: 'JSON Schema, draft 2020-12')],
        ),
    ]
    public function layerDesign(): Response
    {
        return new Response((string) file_get_contents(base_path('core/Design/layer-design.schema.json')), 200, [
            'Content-Type' => 'application/schema+json',
        ]);
    }

    #[
        OA\Get(
            path: '/api/v1/openapi.json',
            summary: 'This description',
            tags: ['Running'],
            responses: [new OA\Response(response: 200, description: 'OpenAPI 3.1')],
        ),
    ]
    public function openApi(): JsonResponse
    {
        return JsonResponse::fromJsonString(Description::json());
    }
}
