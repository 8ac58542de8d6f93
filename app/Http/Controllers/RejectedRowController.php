<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Import\ImportView;
use App\Import\RejectedRows;
use App\Models\Import;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use Symfony\Component\HttpFoundation\StreamedResponse;

/** Rows of an import that could not land: seen, corrected, tried again, taken away as a file. */
final class RejectedRowController
{
    #[
        OA\Get(
            path: '/api/v1/imports/{import}/waiting',
            summary: 'Rows that could not land, each with its reason',
            tags: ['Bring in'],
            parameters: [
                new OA\Parameter(name: 'page', in: 'query', schema: new OA\Schema(type: 'integer', minimum: 0)),
            ],
            responses: [new OA\Response(response: 200, description: 'A page of rows')],
        ),
    ]
    public function waiting(Request $request, Import $import): JsonResponse
    {
        return new JsonResponse((new RejectedRows($import))->page(max(0, $request->integer('page'))));
    }

    #[
        OA\Patch(
            path: '/api/v1/imports/{import}/waiting/{row}',
            summary: 'Correct cells of a row, or say where it lies',
            tags: ['Bring in'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    properties: [
                        new OA\Property(
                            property: 'cells',
                            description: 'texts by the place of their column',
                            type: 'object',
                        ),
                        new OA\Property(
                            property: 'place',
                            properties: [
                                new OA\Property(property: 'lon', type: 'number'),
                                new OA\Property(property: 'lat', type: 'number'),
                            ],
                            type: 'object',
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 204, description: 'Kept, to be tried again')],
        ),
    ]
    public function mend(Request $request, Import $import, int $row): Response
    {
        ImportView::expect($import, ['done']);
        $cells = $request->json('cells', []);
        (new RejectedRows($import))->mend($row, is_array($cells) ? $cells : [], $request->json('place'));

        return response()->noContent();
    }

    #[
        OA\Post(
            path: '/api/v1/imports/{import}/retry',
            summary: 'Try rows again that could not land',
            tags: ['Bring in'],
            requestBody: new OA\RequestBody(
                content: new OA\JsonContent(
                    properties: [
                        new OA\Property(
                            property: 'rows',
                            description: 'all where none are named',
                            type: 'array',
                            items: new OA\Items(type: 'integer'),
                            nullable: true,
                        ),
                        new OA\Property(
                            property: 'match',
                            description: 'take the likeliest place from this likeness on, 0.5 to 1',
                            type: 'number',
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'How many landed, how many still wait')],
        ),
    ]
    public function retry(Request $request, Import $import): JsonResponse
    {
        ImportView::expect($import, ['done']);
        $rows = $request->json('rows');
        $match = $request->json('match');

        return new JsonResponse(
            (new RejectedRows($import))->retry(
                is_array($rows) ? array_values(array_filter($rows, is_int(...))) : null,
                is_int($match) || is_float($match) ? (float) max(0.5, min(1.0, $match)) : null,
            ) + ['import' => ImportView::present($import->refresh())],
        );
    }

    #[
        OA\Get(
            path: '/api/v1/imports/{import}/waiting.csv',
            summary: 'Rows that could not land, with their reasons, as CSV',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 200, description: 'A CSV file')],
        ),
    ]
    public function waitingCsv(Import $import): StreamedResponse
    {
        return response()->streamDownload(
            static function () use ($import): void {
                $out = fopen('php://output', 'wb') ?: throw new \RuntimeException('no output');
                fwrite($out, "\xEF\xBB\xBF");
                foreach ((new RejectedRows($import))->csv() as $row) {
                    fputcsv($out, $row, ',', '"', '', "\r\n");
                }
            },
            'not-placed.csv',
            ['Content-Type' => 'text/csv; charset=utf-8'],
        );
    }
}
