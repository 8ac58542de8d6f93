<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Intake\Incoming;
use App\Intake\LandImport;
use App\Intake\ReadImport;
use App\Intake\Review;
use App\Intake\Systems;
use App\Intake\UndoImport;
use App\Intake\Waiting;
use App\Models\Import;
use App\Models\Layer;
use App\Models\Programme;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Intake\IntakeSettings;
use PinYard\Intake\Proposal;
use PinYard\Refused;
use Symfony\Component\HttpFoundation\StreamedResponse;

final class ImportController
{
    #[OA\Get(path: '/api/v1/programmes/{programme}/imports', summary: 'What was brought in, newest first', tags: ['Bring in'], responses: [new OA\Response(response: 200, description: 'The imports')])]
    public function index(Programme $programme): JsonResponse
    {
        $shown = [];
        foreach (Import::query()->where('programme_id', $programme->id)->with(['user', 'layer'])->orderBy('id', 'desc')->get()->take(100) as $import) {
            $shown[] = $this->present($import, true);
        }

        return new JsonResponse($shown);
    }

    #[OA\Post(path: '/api/v1/programmes/{programme}/imports', summary: 'Announce files to bring in; their bytes follow', description: '`like`: number of an earlier import, whose settings hold again.', tags: ['Bring in'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['files'], properties: [
        new OA\Property(property: 'files', type: 'array', items: new OA\Items(properties: [new OA\Property(property: 'name', type: 'string'), new OA\Property(property: 'bytes', type: 'integer')], type: 'object')),
        new OA\Property(property: 'like', type: 'integer', nullable: true), new OA\Property(property: 'layer', description: 'the layer that it goes into', type: 'integer', nullable: true),
    ])), responses: [new OA\Response(response: 201, description: 'The import')])]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse($this->present(Incoming::announce($programme, $request->user(), $request->json('files'), $request->json('like'), $request->json('layer'))), 201);
    }

    #[OA\Patch(path: '/api/v1/imports/{import}/files/{file}', summary: 'Send bytes of a file, from where it stands', tags: ['Bring in'], parameters: [new OA\Parameter(name: 'Upload-Offset', in: 'header', required: true, schema: new OA\Schema(type: 'integer'))], requestBody: new OA\RequestBody(content: new OA\MediaType(mediaType: 'application/offset+octet-stream', schema: new OA\Schema(type: 'string', format: 'binary'))), responses: [
        new OA\Response(response: 200, description: 'Where it stands now; when all files are whole, reading begins'), new OA\Response(response: 409, description: 'It stands elsewhere'),
    ])]
    public function bytes(Request $request, Import $import, int $file): JsonResponse
    {
        $offset = $request->header('Upload-Offset');
        [$at, $taken] = (new Incoming($import))->take($file, is_string($offset) && ctype_digit($offset) ? (int) $offset : -1, $request->getContent(true));

        return new JsonResponse(['offset' => $at, 'state' => $import->state], $taken ? 200 : 409);
    }

    #[OA\Get(path: '/api/v1/imports/{import}', summary: 'How an import is getting on, and what was found', tags: ['Bring in'], responses: [new OA\Response(response: 200, description: 'The import')])]
    public function show(Import $import): JsonResponse
    {
        return new JsonResponse($this->present($import));
    }

    #[OA\Put(path: '/api/v1/imports/{import}/settings', summary: 'Decide what becomes of the columns; answers with what would land', tags: ['Bring in'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(type: 'object')), responses: [new OA\Response(response: 200, description: 'The import with its review')])]
    public function settings(Request $request, Import $import): JsonResponse
    {
        $this->expect($import, ['review']);
        $given = array_intersect_key($request->json()->all(), array_flip(['title', 'mode', 'layer', 'table', 'head_row', 'zone', 'columns', 'location', 'unfit', 'key_column', 'new_choices', 'within', 'shape']));
        $settings = IntakeSettings::of($given);
        $kept = ['names' => $import->settings['names'] ?? []] + $given;
        $system = $settings->way === 'geometry' ? $settings->system : '';
        if ($settings->table !== (string) ($import->source['table'] ?? '') && $import->source['kind'] !== 'csv' || $settings->headRow !== ($import->settings['head_row'] ?? 1) || $system !== '' && $system !== ($import->source['given'] ?? null)) {
            // Other rows, or other places: it is read again.
            $same = $settings->headRow === ($import->settings['head_row'] ?? 1) && $settings->table === (string) ($import->source['table'] ?? '');
            $import->update(['state' => 'reading', 'settings' => $same ? $kept : null]);
            ReadImport::dispatch($import->id, $settings->table === '' ? null : $settings->table, $system === '' ? null : $system, $settings->headRow);

            return new JsonResponse($this->present($import->refresh()));
        }
        $import->update(['settings' => $kept, 'problems' => null]);

        return new JsonResponse($this->present($import) + ['review' => Review::of($import)]);
    }

    #[OA\Post(path: '/api/v1/imports/{import}/into/{layer}', summary: 'Propose how the columns fit an existing layer', tags: ['Bring in'], responses: [new OA\Response(response: 200, description: 'Settings, not yet saved')])]
    public function into(Import $import, Layer $layer): JsonResponse
    {
        $this->expect($import, ['review']);
        if ($layer->programme_id !== $import->programme_id) {
            abort(404);
        }
        if ($layer->visits_of !== null) {
            throw Refused::because('intake_visits', 'layer');
        }

        return new JsonResponse(['layer' => $layer->id] + Proposal::into((array) $import->settings, $layer->design()));
    }

    #[OA\Get(path: '/api/v1/imports/{import}/systems', summary: 'Reference systems that the coordinates may be in, with where they would fall', tags: ['Bring in'], parameters: [new OA\Parameter(name: 'code', in: 'query', schema: new OA\Schema(type: 'string', example: 'EPSG:27700'))], responses: [new OA\Response(response: 200, description: 'Candidates, the likeliest first')])]
    public function systems(Request $request, Import $import): JsonResponse
    {
        $this->expect($import, ['review']);
        $code = $request->query('code');
        if (is_string($code) && preg_match('/^(EPSG:)?\d{4,6}$/iD', trim($code)) !== 1) {
            throw Refused::because('intake_system', 'location', $code);
        }

        return new JsonResponse(Systems::candidates($import, is_string($code) ? 'EPSG:'.preg_replace('/\D/', '', $code) : null));
    }

    #[OA\Post(path: '/api/v1/imports/{import}/land', summary: 'Bring it in', tags: ['Bring in'], responses: [new OA\Response(response: 202, description: 'It is landing')])]
    public function land(Import $import): JsonResponse
    {
        $this->expect($import, ['review']);
        $settings = IntakeSettings::of((array) $import->settings);
        if ($settings->undecided() !== []) {
            throw Refused::because('intake_order_open', 'columns/'.$settings->undecided()[0], null, ['column' => $settings->columns[$settings->undecided()[0]]->label]);
        }
        $import->wantsStop(false);
        $import->update(['state' => 'landing', 'problems' => null]);
        LandImport::dispatch($import->id);

        return new JsonResponse($this->present($import->refresh()), 202);
    }

    #[OA\Post(path: '/api/v1/imports/{import}/cancel', summary: 'Stop it; nothing of it stays', tags: ['Bring in'], responses: [new OA\Response(response: 200, description: 'The import')])]
    public function cancel(Import $import): JsonResponse
    {
        $this->expect($import, ['sending', 'reading', 'review', 'landing', 'failed']);
        $import->wantsStop(true);
        if (! in_array($import->state, ['reading', 'landing'], true)) {
            $import->update(['state' => 'cancelled']);
            Incoming::forget($import);
        }

        return new JsonResponse($this->present($import->refresh()));
    }

    #[OA\Post(path: '/api/v1/imports/{import}/undo', summary: 'Take a whole import back; records that were changed since stay and are named', tags: ['Bring in'], responses: [new OA\Response(response: 200, description: 'What was taken back')])]
    public function undo(Import $import): JsonResponse
    {
        $this->expect($import, ['done']);

        return new JsonResponse(UndoImport::run($import) + ['import' => $this->present($import->refresh())]);
    }

    #[OA\Get(path: '/api/v1/imports/{import}/waiting', summary: 'Rows that could not land, each with its reason', tags: ['Bring in'], parameters: [new OA\Parameter(name: 'page', in: 'query', schema: new OA\Schema(type: 'integer', minimum: 0))], responses: [new OA\Response(response: 200, description: 'A page of rows')])]
    public function waiting(Request $request, Import $import): JsonResponse
    {
        return new JsonResponse((new Waiting($import))->page(max(0, $request->integer('page'))));
    }

    #[OA\Patch(path: '/api/v1/imports/{import}/waiting/{row}', summary: 'Correct cells of a row, or say where it lies', tags: ['Bring in'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(properties: [
        new OA\Property(property: 'cells', description: 'texts by the place of their column', type: 'object'), new OA\Property(property: 'place', properties: [new OA\Property(property: 'lon', type: 'number'), new OA\Property(property: 'lat', type: 'number')], type: 'object', nullable: true),
    ])), responses: [new OA\Response(response: 204, description: 'Kept, to be tried again')])]
    public function mend(Request $request, Import $import, int $row): Response
    {
        $this->expect($import, ['done']);
        $cells = $request->json('cells', []);
        (new Waiting($import))->mend($row, is_array($cells) ? $cells : [], $request->json('place'));

        return response()->noContent();
    }

    #[OA\Post(path: '/api/v1/imports/{import}/retry', summary: 'Try rows again that could not land', tags: ['Bring in'], requestBody: new OA\RequestBody(content: new OA\JsonContent(properties: [
        new OA\Property(property: 'rows', description: 'all where none are named', type: 'array', items: new OA\Items(type: 'integer'), nullable: true), new OA\Property(property: 'match', description: 'take the likeliest place from this likeness on, 0.5 to 1', type: 'number', nullable: true),
    ])), responses: [new OA\Response(response: 200, description: 'How many landed, how many still wait')])]
    public function retry(Request $request, Import $import): JsonResponse
    {
        $this->expect($import, ['done']);
        $rows = $request->json('rows');
        $match = $request->json('match');

        return new JsonResponse((new Waiting($import))->retry(is_array($rows) ? array_values(array_filter($rows, is_int(...))) : null, is_int($match) || is_float($match) ? (float) max(0.5, min(1.0, $match)) : null) + ['import' => $this->present($import->refresh())]);
    }

    #[OA\Get(path: '/api/v1/imports/{import}/waiting.csv', summary: 'Rows that could not land, with their reasons, as CSV', tags: ['Bring in'], responses: [new OA\Response(response: 200, description: 'A CSV file')])]
    public function waitingCsv(Import $import): StreamedResponse
    {
        return response()->streamDownload(static function () use ($import): void {
            $out = fopen('php://output', 'wb') ?: throw new \RuntimeException('no output');
            fwrite($out, "\xEF\xBB\xBF");
            foreach ((new Waiting($import))->csv() as $row) {
                fputcsv($out, $row, ',', '"', '', "\r\n");
            }
        }, 'not-placed.csv', ['Content-Type' => 'text/csv; charset=utf-8']);
    }

    #[OA\Get(path: '/api/v1/imports/{import}/photos/{row}', summary: 'A picture of an import, small', tags: ['Bring in'], responses: [new OA\Response(response: 200, description: 'A JPEG')])]
    public function photo(Import $import, int $row): Response
    {
        return response(Incoming::thumbnail($import, $row) ?? abort(404), 200, ['Content-Type' => 'image/jpeg', 'Cache-Control' => 'private, max-age=86400']);
    }

    /** @param  list<string>  $states */
    private function expect(Import $import, array $states): void
    {
        if (! in_array($import->state, $states, true)) {
            throw Refused::because('intake_state', 'import', $import->state, ['state' => $import->state]);
        }
    }

    /** @return array<string, mixed> */
    private function present(Import $import, bool $short = false): array
    {
        $row = [
            'id' => $import->id, 'programme' => $import->programme_id, 'state' => $import->state, 'files' => array_map(static fn (array $f): array => ['name' => $f['name'], 'bytes' => $f['bytes'], 'sha256' => $f['sha256'] ?? null], $import->files), 'by' => $import->user?->name, 'at' => $import->created_at?->toRfc3339String(),
            'layer' => $import->layer_id, 'layer_title' => $import->layer->title ?? null, 'counts' => $import->counts, 'problems' => $import->problems, 'progress' => in_array($import->state, ['reading', 'landing'], true) ? $import->progress() : null,
            'mode' => $import->settings['mode'] ?? 'new', 'rows' => $import->reading['rows'] ?? null,
        ];

        return $short ? $row : $row + [
            'source' => $import->source === null ? null : array_intersect_key($import->source, array_flip(['kind', 'tables', 'table', 'system', 'given', 'wkt', 'wkt_column', 'turned'])), 'reading' => $import->reading, 'settings' => $import->settings,
        ];
    }
}
