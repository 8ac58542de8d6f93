<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\RecordQuestion;
use App\People\SignedIn;
use App\Records\RecordQuestions;
use App\Records\VisibleRecords;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Record\RecordId;
use stdClass;

/** Questions of the desk about records; phones get and answer them with their sync rounds. */
final class RecordQuestionController
{
    private const MOST = 200;

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/asked',
            summary: 'What was asked back and is not closed, answered ones first',
            tags: ['Check'],
            responses: [new OA\Response(response: 200, description: 'Up to 200 questions with their answers')],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        /** @var Collection<int, RecordQuestion> $found */
        $found = RecordQuestion::query()
            ->whereIn('layer_id', $programme->layers()->pluck('id'))
            ->whereNull('closed_at')
            ->with('layer.programme')
            ->orderByRaw('answered_at is null')
            ->orderBy('id')
            ->limit(self::MOST)
            ->get();

        return new JsonResponse(
            $found
                ->map(static fn (RecordQuestion $q): array => RecordQuestions::present($q, SignedIn::of($request)))
                ->values()
                ->all(),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/records/{record}/asked',
            summary: 'What was asked about a record',
            tags: ['Check'],
            responses: [new OA\Response(response: 200, description: 'The questions, the newest first')],
        ),
    ]
    public function show(Request $request, Layer $layer, string $record): JsonResponse
    {
        /** @var Collection<int, RecordQuestion> $found */
        $found = RecordQuestion::query()
            ->where('layer_id', $layer->id)
            ->where('record_id', self::record($request, $layer, $record)->id)
            ->with('layer.programme')
            ->orderByDesc('id')
            ->limit(self::MOST)
            ->get();

        return new JsonResponse(
            $found
                ->map(static fn (RecordQuestion $q): array => RecordQuestions::present($q, SignedIn::of($request)))
                ->values()
                ->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/records/{record}/asked',
            summary: 'Ask whoever made a record',
            tags: ['Check'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['text'],
                    properties: [new OA\Property(property: 'text', type: 'string', maxLength: 500)],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The question')],
        ),
    ]
    public function store(Request $request, Layer $layer, string $record): JsonResponse
    {
        return new JsonResponse(
            RecordQuestions::present(
                RecordQuestions::ask(
                    SignedIn::of($request),
                    $layer,
                    self::record($request, $layer, $record),
                    $request->json('text'),
                ),
                SignedIn::of($request),
            ),
            201,
        );
    }

    #[
        OA\Delete(
            path: '/api/v1/asked/{asked}',
            summary: 'Close a question',
            tags: ['Check'],
            responses: [new OA\Response(response: 200, description: 'The question, closed')],
        ),
    ]
    public function close(Request $request, RecordQuestion $asked): JsonResponse
    {
        $asked->update(['closed_at' => $asked->closed_at ?? now()]);

        return new JsonResponse(RecordQuestions::present($asked, SignedIn::of($request)));
    }

    private static function record(Request $request, Layer $layer, string $record): stdClass
    {
        return VisibleRecords::for(SignedIn::of($request), $layer)
            ->rows()
            ->where('id', RecordId::of($record, 'record')->bytes())
            ->first() ?? abort(404);
    }
}
