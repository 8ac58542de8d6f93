<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\KeptAnswer;
use App\Boards\BoardAnswers;
use App\Boards\BoardDraft;
use App\Boards\BoardSources;
use App\Boards\BoardState;
use App\Documents\MergedInput;
use App\Http\Requests\SaveBoard;
use App\Models\Board;
use App\Models\Programme;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;

final class BoardController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/boards',
            summary: 'Boards of a programme',
            tags: ['Boards'],
            responses: [new OA\Response(response: 200, description: 'The boards')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        return new JsonResponse($programme->boards()->orderBy('title')->get()->map(self::present(...))->all());
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/boards',
            summary: 'Make a board',
            description: 'Without tiles it begins with a count, a breakdown, the latest records and a map of the '
                .'programme\'s first layer.',
            tags: ['Boards'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/BoardInput'),
            ),
            responses: [new OA\Response(response: 201, description: 'The board')],
        ),
    ]
    public function store(SaveBoard $request, Programme $programme): JsonResponse
    {
        $tiles = $request->has('tiles') ? $request->tiles($programme) : BoardDraft::tiles($programme);
        $board = $programme->boards()->make(['title' => $request->string('title')->value(), 'tiles' => $tiles]);
        $board->openTo($request->audience());

        return new JsonResponse(self::present($board), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/boards/{board}',
            summary: 'A board',
            tags: ['Boards'],
            responses: [new OA\Response(response: 200, description: 'The board')],
        ),
    ]
    public function show(Board $board): JsonResponse
    {
        return new JsonResponse(self::present($board));
    }

    #[
        OA\Patch(
            path: '/api/v1/boards/{board}',
            summary: 'Change a board',
            tags: ['Boards'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/BoardInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'The board')],
        ),
    ]
    public function update(SaveBoard $request, Board $board): JsonResponse
    {
        $board = DB::transaction(static function () use ($request, $board): Board {
            $now = Board::query()->with('programme')->lockForUpdate()->findOrFail($board->id);
            $parts = MergedInput::of($request, self::present($now), ['title', 'tiles']);
            if (isset($parts['title'])) {
                $now->title = $parts['title'];
            }
            if (isset($parts['tiles'])) {
                $now->tiles = $request->merge(['tiles' => $parts['tiles']])->tiles($now->programme);
            }
            $now->openTo(
                $request->has('audience') ? $request->audience() : $now->audience,
                $request->json('new_link') === true,
            );

            return $now;
        });

        return new JsonResponse(self::present($board));
    }

    #[
        OA\Get(
            path: '/api/v1/boards/{board}/answers',
            summary: 'The answers of all tiles at once',
            description: 'With an ETag: an unchanged board answers 304.',
            tags: ['Boards'],
            responses: [
                new OA\Response(response: 200, description: 'The answers'),
                new OA\Response(response: 304, description: 'Nothing has changed'),
            ],
        ),
    ]
    public function answers(Request $request, int $board): JsonResponse|Response
    {
        $person = SignedIn::of($request);

        return KeptAnswer::unlessKnown(
            $request,
            'board|'.(BoardState::forPerson($board, $person) ?? abort(404)),
            static fn (): KeptAnswer => BoardAnswers::of(BoardSources::forPerson($board, $person) ?? abort(404)),
        );
    }

    /** @return array<string, mixed> */
    private static function present(Board $board): array
    {
        return [
            'id' => $board->id,
            'title' => $board->title,
            'tiles' => $board->tiles,
            'audience' => $board->audience->value,
            'address' => $board->link_token === null ? null : "/b/{$board->link_token}",
        ];
    }
}
