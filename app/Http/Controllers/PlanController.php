<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Export\Spreadsheets;
use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use App\Plan\Questions;
use App\Plan\Readiness;
use App\Plan\Starters;
use App\Rights\LayerRights;
use App\Texts;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Str;
use OpenApi\Attributes as OA;
use PinYard\Design\LayerDesign;
use PinYard\Export\DesignSheet;
use PinYard\Export\DesignSheetReader;
use PinYard\Refused;
use Symfony\Component\HttpFoundation\BinaryFileResponse;

final class PlanController
{
    private const MOST_BYTES = 10 << 20;

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/questions',
            summary: 'What the programme must answer, tied to fields and tiles',
            tags: ['Plan'],
            responses: [new OA\Response(response: 200, description: 'The questions in their order')],
        ),
    ]
    public function questions(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(Questions::of($programme, SignedIn::of($request)));
    }

    #[
        OA\Put(
            path: '/api/v1/programmes/{programme}/questions',
            summary: 'Save the whole list of questions',
            tags: ['Plan'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(type: 'array', items: new OA\Items(type: 'object')),
            ),
            responses: [new OA\Response(response: 200, description: 'The questions')],
        ),
    ]
    public function saveQuestions(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(Questions::save($programme, $request->json()->all()));
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/ready',
            summary: 'The ready check: what is still missing before crews go out',
            tags: ['Plan'],
            responses: [new OA\Response(response: 200, description: 'Its lines')],
        ),
    ]
    public function ready(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(Readiness::of($programme, SignedIn::of($request)));
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/designs.json',
            summary: 'All designs of a programme as one open file',
            tags: ['Plan'],
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'The design sheet; each layer follows the published schema',
                ),
            ],
        ),
    ]
    public function designs(Request $request, Programme $programme): JsonResponse
    {
        $name = (Str::slug($programme->name) ?: 'programme').'-designs.json';

        return new JsonResponse(
            [
                'programme' => $programme->name,
                'purpose' => $programme->purpose,
                'time_zone' => $programme->time_zone,
                'schema' => '/schemas/layer-design.json',
                'layers' => self::seen($request, $programme)
                    ->map(static fn (Layer $l): array => self::portable($l->design()->withGenerations([])->toArray()))
                    ->all(),
            ],
            200,
            ['Content-Disposition' => "attachment; filename=\"$name\""],
            JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES,
        );
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/designs.xlsx',
            summary: 'The design sheet as a spreadsheet',
            tags: ['Plan'],
            responses: [new OA\Response(response: 200, description: 'Layers, fields, choices')],
        ),
    ]
    public function sheet(Request $request, Programme $programme): BinaryFileResponse
    {
        $layers = self::seen($request, $programme);
        $designs = array_values($layers->map(static fn (Layer $l): LayerDesign => $l->design())->all());
        $name = (Str::slug($programme->name) ?: 'programme').'-designs.xlsx';

        return (new BinaryFileResponse(Spreadsheets::write(DesignSheet::of($designs)), 200, [
            'Content-Type' => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
        ]))
            ->setContentDisposition('attachment', $name)
            ->deleteFileAfterSend();
    }

    #[
        OA\Post(
            path: '/api/v1/designs/read',
            summary: 'Read designs out of a spreadsheet (XLSX, ODS, CSV), without making anything',
            tags: ['Plan'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\MediaType(
                    mediaType: 'multipart/form-data',
                    schema: new OA\Schema(
                        properties: [new OA\Property(property: 'file', type: 'string', format: 'binary')],
                    ),
                ),
            ),
            responses: [
                new OA\Response(response: 200, description: 'The designs, with what was made of unclear cells'),
            ],
        ),
    ]
    public function readSheet(Request $request): JsonResponse
    {
        $file = $request->file('file');
        if (! $file instanceof UploadedFile || ! $file->isValid() || $file->getSize() > self::MOST_BYTES) {
            throw Refused::because('sheet_file', 'file', null, ['most' => self::MOST_BYTES >> 20]);
        }
        $name = mb_substr($file->getClientOriginalName(), 0, 120);
        $reader = new DesignSheetReader;
        $designs = $reader->read(Spreadsheets::read($file->getPathname(), $name), pathinfo($name, PATHINFO_FILENAME));

        return new JsonResponse([
            'designs' => $designs,
            'notes' => array_column(Texts::problems($reader->notes), 'message'),
        ]);
    }

    /**
     * Numbers of shared lists mean nothing elsewhere; the choices go along.
     *
     * @param  array<string, mixed>  $document
     * @return array<string, mixed>
     */
    private static function portable(array $document): array
    {
        $document['fields'] = array_map(
            static fn (array $f): array => array_diff_key($f, ['list' => 1]),
            $document['fields'],
        );

        return $document;
    }

    #[
        OA\Get(
            path: '/api/v1/starters',
            summary: 'Designs to begin from',
            tags: ['Plan'],
            responses: [new OA\Response(response: 200, description: 'The starter designs')],
        ),
    ]
    public function starters(): JsonResponse
    {
        return new JsonResponse(Starters::all());
    }

    /** @return Collection<int, Layer> those that are there for whoever asks */
    private static function seen(Request $request, Programme $programme): Collection
    {
        $person = SignedIn::of($request);

        return $programme->layers()->orderBy('title')->get()
            ->filter(static fn (Layer $l): bool => LayerRights::of($person, $l)->maySee())->values();
    }
}
