<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Import\ImportReview;
use App\Import\ImportView;
use App\Import\IncomingFiles;
use App\Import\LandImport;
use App\Import\ReadImport;
use App\Import\ReferenceSystems;
use App\Import\UndoImport;
use App\Models\Import;
use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Import\ImportProposal;
use PinYard\Import\ImportSettings;
use PinYard\Refused;

final class ImportController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/imports',
            summary: 'What was brought in, newest first',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 200, description: 'The imports')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        $shown = [];
        foreach (
            Import::query()
                ->where('programme_id', $programme->id)
                ->with(['user', 'layer'])
                ->orderBy('id', 'desc')
                ->limit(100)
                ->get() as $import
        ) {
            $shown[] = ImportView::present($import, true);
        }

        return new JsonResponse($shown);
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/imports',
            summary: 'Announce files to bring in; their bytes follow',
            description: '`like`: number of an earlier import, whose settings hold again.',
            tags: ['Bring in'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['files'],
                    properties: [
                        new OA\Property(
                            property: 'files',
                            type: 'array',
                            items: new OA\Items(
                                properties: [
                                    new OA\Property(property: 'name', type: 'string'),
                                    new OA\Property(property: 'bytes', type: 'integer'),
                                ],
                                type: 'object',
                            ),
                        ),
                        new OA\Property(property: 'like', type: 'integer', nullable: true),
                        new OA\Property(
                            property: 'layer',
                            description: 'the layer that it goes into',
                            type: 'integer',
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The import')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(
            ImportView::present(
                IncomingFiles::announce(
                    $programme,
                    SignedIn::of($request),
                    $request->json('files'),
                    $request->json('like'),
                    $request->json('layer'),
                ),
            ),
            201,
        );
    }

    #[
        OA\Patch(
            path: '/api/v1/imports/{import}/files/{file}',
            summary: 'Send bytes of a file, from where it stands',
            tags: ['Bring in'],
            parameters: [
                new OA\Parameter(
                    name: 'Upload-Offset',
                    in: 'header',
                    required: true,
                    schema: new OA\Schema(type: 'integer'),
                ),
            ],
            requestBody: new OA\RequestBody(
                content: new OA\MediaType(
                    mediaType: 'application/offset+octet-stream',
                    schema: new OA\Schema(type: 'string', format: 'binary'),
                ),
            ),
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'Where it stands now; when all files are whole, reading begins',
                ),
                new OA\Response(response: 409, description: 'It stands elsewhere'),
            ],
        ),
    ]
    public function bytes(Request $request, Import $import, int $file): JsonResponse
    {
        $offset = $request->header('Upload-Offset');
        [$at, $taken] = (new IncomingFiles($import))->take(
            $file,
            is_string($offset) && ctype_digit($offset) ? (int) $offset : -1,
            $request->getContent(true),
        );

        return new JsonResponse(['offset' => $at, 'state' => $import->state], $taken ? 200 : 409);
    }

    #[
        OA\Get(
            path: '/api/v1/imports/{import}',
            summary: 'How an import is getting on, and what was found',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 200, description: 'The import')],
        ),
    ]
    public function show(Import $import): JsonResponse
    {
        return new JsonResponse(ImportView::present($import));
    }

    #[
        OA\Put(
            path: '/api/v1/imports/{import}/settings',
            summary: 'Decide what becomes of the columns; answers with what would land',
            tags: ['Bring in'],
            requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(type: 'object')),
            responses: [new OA\Response(response: 200, description: 'The import with its review')],
        ),
    ]
    public function settings(Request $request, Import $import): JsonResponse
    {
        ImportView::expect($import, ['review']);
        $settings = ImportSettings::of($request->json()->all());
        $layer =
            $settings->layer === null
                ? null
                : $import->programme->layers()->find($settings->layer) ??
                    throw Refused::because('intake_layer', 'layer');
        // What is changed in the layer from here on was not in the preview.
        $kept = ['names' => $import->settings['names'] ?? [], 'seen' => $layer?->change_number] +
            $settings->toArray();
        $system = $settings->way === 'geometry' ? $settings->system : '';
        if (
            ($settings->table !== (string) ($import->source['table'] ?? '') &&
                ($import->source['kind'] ?? '') !== 'csv') ||
            $settings->headRow !== ($import->settings['head_row'] ?? 1) ||
            ($system !== '' && $system !== ($import->source['given'] ?? null))
        ) {
            // Other rows, or other places: it is read again.
            $same =
                $settings->headRow === ($import->settings['head_row'] ?? 1) &&
                $settings->table === (string) ($import->source['table'] ?? '');
            $import->update(['state' => 'reading', 'settings' => $same ? $kept : null]);
            ReadImport::dispatch(
                $import->id,
                $settings->table === '' ? null : $settings->table,
                $system === '' ? null : $system,
                $settings->headRow,
            );

            return new JsonResponse(ImportView::present($import->refresh()));
        }
        $import->update(['settings' => $kept, 'problems' => null]);

        return new JsonResponse(ImportView::present($import) + ['review' => ImportReview::of($import)]);
    }

    #[
        OA\Post(
            path: '/api/v1/imports/{import}/into/{layer}',
            summary: 'Propose how the columns fit an existing layer',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 200, description: 'Settings, not yet saved')],
        ),
    ]
    public function into(Import $import, Layer $layer): JsonResponse
    {
        ImportView::expect($import, ['review']);
        if ($layer->programme_id !== $import->programme_id) {
            abort(404);
        }
        if ($layer->visits_of !== null) {
            throw Refused::because('intake_visits', 'layer');
        }

        return new JsonResponse(
            ['layer' => $layer->id] + ImportProposal::into((array) $import->settings, $layer->design()),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/imports/{import}/systems',
            summary: 'Reference systems that the coordinates may be in, with where they would fall',
            tags: ['Bring in'],
            parameters: [
                new OA\Parameter(
                    name: 'code',
                    in: 'query',
                    schema: new OA\Schema(type: 'string', example: 'EPSG:27700'),
                ),
            ],
            responses: [new OA\Response(response: 200, description: 'Candidates, the likeliest first')],
        ),
    ]
    public function systems(Request $request, Import $import): JsonResponse
    {
        ImportView::expect($import, ['review']);
        $code = $request->query('code');
        if (is_string($code) && preg_match('/^(EPSG:)?\d{4,6}$/iD', trim($code)) !== 1) {
            throw Refused::because('intake_system', 'location', $code);
        }

        return new JsonResponse(
            ReferenceSystems::candidates($import, is_string($code) ? 'EPSG:'.preg_replace('/\D/', '', $code) : null),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/imports/{import}/land',
            summary: 'Bring it in',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 202, description: 'It is landing')],
        ),
    ]
    public function land(Import $import): JsonResponse
    {
        ImportView::expect($import, ['review']);
        $settings = ImportSettings::of((array) $import->settings);
        if ($settings->undecided() !== []) {
            throw Refused::because('intake_order_open', 'columns/'.$settings->undecided()[0], null, [
                'column' => $settings->columns[$settings->undecided()[0]]->label,
            ]);
        }
        $import->wantsStop(false);
        $import->update(['state' => 'landing', 'problems' => null]);
        LandImport::dispatch($import->id);

        return new JsonResponse(ImportView::present($import->refresh()), 202);
    }

    #[
        OA\Post(
            path: '/api/v1/imports/{import}/cancel',
            summary: 'Stop it; nothing of it stays',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 200, description: 'The import')],
        ),
    ]
    public function cancel(Import $import): JsonResponse
    {
        ImportView::expect($import, ['sending', 'reading', 'review', 'landing', 'failed']);
        $import->wantsStop(true);
        if (! in_array($import->state, ['reading', 'landing'], true)) {
            $import->update(['state' => 'cancelled']);
            IncomingFiles::forget($import);
        }

        return new JsonResponse(ImportView::present($import->refresh()));
    }

    #[
        OA\Post(
            path: '/api/v1/imports/{import}/undo',
            summary: 'Take a whole import back; records that were changed since stay and are named',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 200, description: 'What was taken back')],
        ),
    ]
    public function undo(Request $request, Import $import): JsonResponse
    {
        ImportView::expect($import, ['done']);

        return new JsonResponse(
            UndoImport::run($import, SignedIn::of($request)) + ['import' => ImportView::present($import->refresh())],
        );
    }

    #[
        OA\Get(
            path: '/api/v1/imports/{import}/photos/{row}',
            summary: 'A picture of an import, small',
            tags: ['Bring in'],
            responses: [new OA\Response(response: 200, description: 'A JPEG')],
        ),
    ]
    public function photo(Import $import, int $row): Response
    {
        return response(IncomingFiles::thumbnail($import, $row) ?? abort(404), 200, [
            'Content-Type' => 'image/jpeg',
            'Cache-Control' => 'private, max-age=86400',
        ]);
    }
}
