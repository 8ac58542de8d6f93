<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Alerts\Notices;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;

final class NoticeController
{
    #[
        OA\Get(
            path: '/api/v1/notices',
            summary: 'What alerts have told the one who is signed in, the newest first',
            tags: ['Alerts'],
            responses: [new OA\Response(response: 200, description: 'Up to 60 of them, and how many were not read')],
        ),
    ]
    public function index(Request $request): JsonResponse
    {
        return new JsonResponse(Notices::for(SignedIn::of($request)));
    }

    #[
        OA\Post(
            path: '/api/v1/notices/read',
            summary: 'They were read',
            tags: ['Alerts'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['ids'],
                    properties: [
                        new OA\Property(property: 'ids', type: 'array', items: new OA\Items(type: 'integer')),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'What is there now')],
        ),
    ]
    public function read(Request $request): JsonResponse
    {
        Notices::read(SignedIn::of($request), $request->json('ids'));

        return new JsonResponse(Notices::for(SignedIn::of($request)));
    }
}
