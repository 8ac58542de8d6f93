<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Models\Programme;
use App\Plan\Questions;
use App\Plan\Readiness;
use App\Plan\Starters;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Str;
use OpenApi\Attributes as OA;

final class PlanController
{
    #[OA\Get(path: '/api/v1/programmes/{programme}/questions', summary: 'What the programme must answer, tied to fields and tiles', tags: ['Plan'], responses: [new OA\Response(response: 200, description: 'The questions in their order')])]
    public function questions(Programme $programme): JsonResponse
    {
        return new JsonResponse(Questions::of($programme));
    }

    #[OA\Put(path: '/api/v1/programmes/{programme}/questions', summary: 'Save the whole list of questions', tags: ['Plan'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(type: 'array', items: new OA\Items(type: 'object'))), responses: [new OA\Response(response: 200, description: 'The questions')])]
    public function saveQuestions(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(Questions::save($programme, $request->json()->all()));
    }

    #[OA\Get(path: '/api/v1/programmes/{programme}/ready', summary: 'The ready check: what is still missing before crews go out', tags: ['Plan'], responses: [new OA\Response(response: 200, description: 'Its lines')])]
    public function ready(Programme $programme): JsonResponse
    {
        return new JsonResponse(Readiness::of($programme));
    }

    #[OA\Get(path: '/api/v1/programmes/{programme}/designs.json', summary: 'All designs of a programme as one open file', tags: ['Plan'], responses: [new OA\Response(response: 200, description: 'The design sheet; each layer follows the published schema')])]
    public function designs(Programme $programme): JsonResponse
    {
        $name = (Str::slug($programme->name) ?: 'programme').'-designs.json';

        return new JsonResponse([
            'programme' => $programme->name, 'purpose' => $programme->purpose, 'time_zone' => $programme->time_zone,
            'schema' => '/schemas/layer-design.json',
            'layers' => $programme->layers()->orderBy('title')->get()->map(static fn (Layer $l): array => $l->design()->withGenerations([])->toArray())->all(),
        ], 200, ['Content-Disposition' => "attachment; filename=\"$name\""], JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    #[OA\Get(path: '/api/v1/starters', summary: 'Designs to begin from', tags: ['Plan'], responses: [new OA\Response(response: 200, description: 'The starter designs')])]
    public function starters(): JsonResponse
    {
        return new JsonResponse(Starters::all());
    }
}
