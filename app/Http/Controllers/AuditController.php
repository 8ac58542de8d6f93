<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\Audit;
use App\Models\Programme;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;

/** What was done in a programme about rights, links, files and sign-ins. */
final class AuditController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/audit',
            summary: 'Who gave which rights, opened and closed links, took files out, signed in; newest first',
            tags: ['People'],
            parameters: [new OA\Parameter(
                name: 'before',
                in: 'query',
                description: 'number of the entry that the page before ended with',
                schema: new OA\Schema(type: 'integer'),
            )],
            responses: [new OA\Response(response: 200, description: 'A page of fifty')],
        ),
    ]
    public function __invoke(Request $request, Programme $programme): JsonResponse
    {
        $before = $request->query('before');

        return new JsonResponse(
            Audit::of($programme, is_string($before) && ctype_digit($before) ? (int) substr($before, 0, 18) : null),
        );
    }
}
