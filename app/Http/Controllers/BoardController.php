<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\KeptAnswer;
use App\Boards\BoardAnswers;
use App\Boards\BoardDraft;
use App\Boards\BoardPicks;
use App\Boards\BoardSources;
use App\Boards\Measurable;
use App\Boards\QuestionTiles;
use App\Boards\TilesOfBoard;
use App\Documents\MergedInput;
use App\Http\Polls\Asked;
use App\Http\Requests\SaveBoard;
use App\Models\Board;
use App\Models\Layer;
use App\Models\Programme;
use App\People\SignedIn;
use App\Plan\Reach;
use App\Publish\Opening;
use App\Records\Stood\StoodDay;
use App\Rights\ShownTo;
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
    public function index(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(
            ShownTo::boardsOf($programme, SignedIn::of($request))->map(self::present(...))->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/boards',
            summary: 'Make a board',
            description: 'Without tiles it begins with one for each question of the programme that fields are tied to; '
                .'without questions with what can be said of its first layer.',
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
        $tiles = $request->has('tiles')
            ? $request->tiles($programme)
            : BoardDraft::tiles($programme, SignedIn::of($request));
        $board = $programme->boards()->make([
            'title' => $request->string('title')->value(),
            'tiles' => $tiles,
            'pages' => $request->pages(),
            'visitors_pick' => $request->boolean('visitors_pick'),
            'owner_id' => SignedIn::of($request)->id,
        ]);
        Opening::set(SignedIn::of($request), $board, $request->audience(), $request->shownTo($programme));

        return new JsonResponse(self::present($board), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/proposals',
            summary: 'For each question of a programme the tiles that could answer it',
            tags: ['Boards'],
            responses: [new OA\Response(response: 200, description: 'The questions, each with its tiles')],
        ),
    ]
    public function proposals(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(QuestionTiles::of($programme, SignedIn::of($request)));
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/measurable',
            summary: 'What tiles can measure of the records of a layer, and by what they can be put together',
            tags: ['Boards'],
            responses: [new OA\Response(response: 200, description: 'Quantities and groupings')],
        ),
    ]
    public function measurable(Request $request, Layer $layer): JsonResponse
    {
        return new JsonResponse(Measurable::of($layer, SignedIn::of($request)));
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
        OA\Get(
            path: '/api/v1/boards/{board}/reach',
            summary: 'Which of its layers somebody whom it is shown to does not see',
            tags: ['Boards'],
            responses: [new OA\Response(response: 200, description: 'The layers')],
        ),
    ]
    public function reach(Request $request, Board $board): JsonResponse
    {
        return new JsonResponse(array_map(
            static fn (array $l): array => ['people' => count($l['people'])] + $l,
            Reach::of($board->programme)->lacking($board, SignedIn::of($request)),
        ));
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
        $person = SignedIn::of($request);
        $board = DB::transaction(static function () use ($request, $board, $person): Board {
            $now = Board::query()->with('programme')->lockForUpdate()->findOrFail($board->id);
            $parts = MergedInput::of($request, self::present($now), ['title', 'tiles', 'pages']);
            if (isset($parts['title'])) {
                $now->title = $parts['title'];
            }
            if (isset($parts['tiles'])) {
                $now->tiles = $request->merge(['tiles' => $parts['tiles']])->tiles($now->programme);
            }
            if (array_key_exists('pages', $parts)) {
                $now->pages = $request->merge(['pages' => $parts['pages']])->pages();
            }
            if ($request->has('visitors_pick')) {
                $now->visitors_pick = $request->boolean('visitors_pick');
            }
            $audience = $request->has('audience') ? $request->audience() : $now->audience;
            $some = $request->has('shown_to') ? $request->shownTo($now->programme) : $now->shown_to ?? [];
            $anew = $request->json('new_link') === true;
            Opening::set($person, $now, $audience, $some, $anew);

            return $now;
        });

        return new JsonResponse(self::present($board));
    }

    #[
        OA\Get(
            path: '/api/v1/boards/{board}/answers',
            summary: 'The answers of all tiles at once',
            description: 'With an ETag: an unchanged board answers 304. `on`: a past day, as it ended, '
                .'by what had arrived, or with `by=collected` by what had been collected.',
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
        $asked = BoardPicks::asked($request);

        return KeptAnswer::unlessKnown(
            $request,
            Asked::board(
                $person,
                $board,
                $asked,
                (string) $request->query('on'),
                (string) $request->query('by'),
            ) ?? abort(404),
            static fn (): KeptAnswer => BoardAnswers::of(self::sources($request, $board), $asked),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/boards/{board}/tiles/{tile}/layers/{part}/features.geojson',
            summary: 'The records of a layer of the map in a tile as GeoJSON',
            tags: ['Boards'],
            responses: [new OA\Response(response: 200, description: 'A FeatureCollection')],
        ),
    ]
    public function features(Request $request, int $board, string $tile, string $part): JsonResponse|Response
    {
        return self::tiles($request, $board)->features($request, $tile, $part);
    }

    #[
        OA\Get(
            path: '/api/v1/boards/{board}/tiles/{tile}/layers/{part}/records/{record}',
            summary: 'The card of a record on the map in a tile',
            tags: ['Boards'],
            responses: [new OA\Response(response: 200, description: 'The card')],
        ),
    ]
    public function card(Request $request, int $board, string $tile, string $part, string $record): JsonResponse
    {
        return self::tiles($request, $board)->card($tile, $part, $record, $request->query('from'));
    }

    private static function tiles(Request $request, int $board): TilesOfBoard
    {
        return new TilesOfBoard(
            self::sources($request, $board),
            BoardPicks::asked($request),
        );
    }

    /** @throws \PinYard\Refused of a day that cannot be looked at */
    private static function sources(Request $request, int $board): BoardSources
    {
        $sources = BoardSources::forPerson($board, SignedIn::of($request)) ?? abort(404);

        return $sources->on(StoodDay::asked($request, $sources->board->programme));
    }

    /** @return array<string, mixed> */
    private static function present(Board $board): array
    {
        return [
            'id' => $board->id,
            'title' => $board->title,
            'tiles' => $board->tiles,
            'pages' => $board->pages ?? [],
            'visitors_pick' => $board->visitors_pick,
            'audience' => $board->audience->value,
            'shown_to' => $board->shown_to ?? [],
            'owner' => $board->owner_id,
            'address' => $board->link_token === null ? null : "/b/{$board->link_token}",
        ];
    }
}
