<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\Audit;
use App\Export\RunExport;
use App\Models\Export;
use App\Models\Layer;
use App\People\SignedIn;
use App\Programmes\Usage;
use App\Records\VisibleRecords;
use App\Rights\LayerRights;
use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Str;
use OpenApi\Attributes as OA;
use PinYard\Export\Format;
use PinYard\Record\RecordId;
use PinYard\Refused;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class ExportController
{
    private const MOST_IDS = 10_000;

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/formats',
            summary: 'Formats in which records of a layer can go out, each with what it cannot carry',
            tags: ['Take out'],
            responses: [new OA\Response(response: 200, description: 'The formats')],
        ),
    ]
    public function formats(Layer $layer): JsonResponse
    {
        $design = $layer->design();
        $formats = [];
        foreach (Format::cases() as $format) {
            if ($format->fits($design)) {
                $formats[] = [
                    'format' => $format->value,
                    'losses' => array_map(
                        static fn (string $l): string => Texts::of("export.loss.$l"),
                        $format->losses($design),
                    ),
                ];
            }
        }

        return new JsonResponse($formats);
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/exports',
            summary: 'Write records into a file',
            tags: ['Take out'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['format'],
                    properties: [
                        new OA\Property(
                            property: 'format',
                            type: 'string',
                            enum: ['csv', 'xlsx', 'geojson', 'gpkg', 'shp', 'kml', 'gpx', 'fgb', 'photos'],
                        ),
                        new OA\Property(property: 'choices', type: 'string', enum: ['codes', 'labels', 'both']),
                        new OA\Property(property: 'times', type: 'string', enum: ['utc', 'local']),
                        new OA\Property(property: 'slice', type: 'integer', nullable: true),
                        new OA\Property(property: 'filter', type: 'object', nullable: true),
                        new OA\Property(
                            property: 'ids',
                            type: 'array',
                            items: new OA\Items(type: 'string'),
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 202, description: 'It is being written')],
        ),
    ]
    public function store(Request $request, Layer $layer): JsonResponse
    {
        // A crew member who sees only their own records gets only those.
        LayerRights::of(SignedIn::of($request), $layer)->maySee() || abort(403);
        $wanted = $request->json('format');
        $format =
            Format::tryFrom(is_string($wanted) ? $wanted : '') ??
            throw Refused::because('export_format', 'format', is_scalar($wanted) ? (string) $wanted : null);
        $design = $layer->design();
        if (! $format->fits($design)) {
            throw Refused::because('export_gpx_areas', 'format');
        }
        $filter = $request->json('filter');
        if ($filter !== null) {
            VisibleRecords::for(SignedIn::of($request), $layer)->asked($layer->filter($filter));
        }
        $slice = $request->json('slice');
        if (
            $slice !== null &&
            ! $layer
                ->slices()
                ->whereKey(is_int($slice) ? $slice : 0)
                ->exists()
        ) {
            throw Refused::because('slice_unknown', 'slice');
        }
        $ids = $request->json('ids');
        if ($ids !== null) {
            if (! is_array($ids) || ! array_is_list($ids) || $ids === [] || count($ids) > self::MOST_IDS) {
                throw Refused::because('export_ids', 'ids', null, ['most' => self::MOST_IDS]);
            }
            array_map(static fn (mixed $id): RecordId => RecordId::of($id, 'ids'), $ids);
        }
        Usage::allow($layer->programme, 0);
        $choices = $request->json(
            'choices',
            $format->driver() === null && $format !== Format::GeoJson ? 'labels' : 'codes',
        );
        Audit::note($layer->programme_id, 'export', ['layer' => $layer->title, 'format' => $format->value]);
        $export = Export::query()->create([
            'layer_id' => $layer->id,
            'user_id' => SignedIn::of($request)->id,
            'state' => 'working',
            'name' => (Str::slug($layer->title) ?: 'records').
                ($format === Format::Photos ? '-photos' : '').
                '.'.
                $format->extension(),
            'settings' => [
                'format' => $format->value,
                'choices' => $choices,
                'times' => $request->json('times', 'utc'),
                'slice' => $slice,
                'filter' => $filter,
                'ids' => $ids,
            ],
        ]);
        // Nothing of an earlier life of this number.
        array_map(static fn (string $end): bool => ! is_file($export->path().$end) || unlink($export->path().$end), [
            '',
            '.stop',
            '.progress',
        ]);
        RunExport::dispatch($export->id);

        return new JsonResponse($this->present($export->refresh()), 202);
    }

    #[
        OA\Get(
            path: '/api/v1/exports/{export}',
            summary: 'How a file is getting on',
            tags: ['Take out'],
            responses: [new OA\Response(response: 200, description: 'The export')],
        ),
    ]
    public function show(Export $export): JsonResponse
    {
        return new JsonResponse($this->present($export));
    }

    #[
        OA\Get(
            path: '/api/v1/exports/{export}/file',
            summary: 'The file; ranges of bytes can be asked for',
            tags: ['Take out'],
            responses: [
                new OA\Response(response: 200, description: 'The file'),
                new OA\Response(response: 206, description: 'Part of it'),
            ],
        ),
    ]
    public function file(Export $export): BinaryFileResponse
    {
        if ($export->state !== 'done' || ! is_file($export->path())) {
            throw Refused::because('export_not_ready', 'export', $export->state);
        }

        return (new BinaryFileResponse($export->path(), 200, [
            'Content-Type' => Format::from((string) $export->settings['format'])->mediaType(),
            'Cache-Control' => 'private, no-store',
            'Accept-Ranges' => 'bytes',
        ]))->setContentDisposition('attachment', $export->name);
    }

    #[
        OA\Delete(
            path: '/api/v1/exports/{export}',
            summary: 'Stop it, or throw the file away',
            tags: ['Take out'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function destroy(Export $export): Response
    {
        if ($export->state === 'working') {
            @mkdir(dirname($export->path()), 0o700, true);
            touch($export->path().'.stop');
        } else {
            @unlink($export->path());
            $export->delete();
        }

        return response()->noContent();
    }

    /** @return array<string, mixed> */
    private function present(Export $export): array
    {
        return [
            'id' => $export->id,
            'state' => $export->state,
            'name' => $export->name,
            'records' => $export->state === 'working' ? RunExport::progress($export) : $export->records,
            'bytes' => $export->bytes,
            'url' => $export->state === 'done' ? "/api/v1/exports/$export->id/file" : null,
        ];
    }
}
