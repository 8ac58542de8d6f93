<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\KeptAnswer;
use App\Backdrops;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;

final class BackdropController
{
    #[
        OA\Get(
            path: '/api/v1/backdrops',
            summary: 'What lies under maps, and how it is drawn',
            tags: ['Maps'],
            responses: [new OA\Response(response: 200, description: 'The backdrops, the lowest first')],
        ),
    ]
    public function __invoke(Request $request): JsonResponse|Response
    {
        return KeptAnswer::told(Backdrops::all())->response($request);
    }
}
