<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Group;
use App\Models\Programme;
use App\People\Groups;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;

/** Groups of people beside the crews: partners, a council, a class. */
final class GroupController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/groups',
            summary: 'Groups of a programme',
            description: 'A coordinator gets all of them; others those that they are in, and who else is in it where '
                .'that may be seen.',
            tags: ['People'],
            responses: [new OA\Response(response: 200, description: 'The groups')],
        ),
    ]
    public function index(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(Groups::for(SignedIn::of($request), $programme));
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/groups',
            summary: 'Make a group',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/GroupInput'),
            ),
            responses: [new OA\Response(response: 201, description: 'The group')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        $group = Groups::make($programme, self::read($request, true));

        return new JsonResponse(Groups::present($group), 201);
    }

    #[
        OA\Patch(
            path: '/api/v1/groups/{group}',
            summary: 'Change a group',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/GroupInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'The group')],
        ),
    ]
    public function update(Request $request, Group $group): JsonResponse
    {
        return new JsonResponse(Groups::present(Groups::change($group, self::read($request, false))));
    }

    #[
        OA\Delete(
            path: '/api/v1/groups/{group}',
            summary: 'Take a group away; its people stay in the programme, and see what they see without it',
            tags: ['People'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function destroy(Group $group): Response
    {
        Groups::remove($group);

        return response()->noContent();
    }

    #[
        OA\Put(
            path: '/api/v1/groups/{group}/people/{member}',
            summary: 'Put a person into a group',
            tags: ['People'],
            responses: [new OA\Response(response: 200, description: 'The group')],
        ),
    ]
    public function join(Group $group, int $member): JsonResponse
    {
        Groups::join($group, $member);

        return new JsonResponse(Groups::present($group));
    }

    #[
        OA\Delete(
            path: '/api/v1/groups/{group}/people/{member}',
            summary: 'Take a person out of a group',
            tags: ['People'],
            responses: [new OA\Response(response: 200, description: 'The group')],
        ),
    ]
    public function leave(Group $group, int $member): JsonResponse
    {
        Groups::leave($group, $member);

        return new JsonResponse(Groups::present($group));
    }

    /** @return array{name?: string, may_change?: bool, members_seen?: bool} */
    private static function read(Request $request, bool $isNew): array
    {
        $in = $request->validate([
            'name' => [$isNew ? 'required' : 'sometimes', 'filled', 'string', 'max:80'],
            'may_change' => ['sometimes', 'boolean'],
            'members_seen' => ['sometimes', 'boolean'],
        ]);

        return [
            ...isset($in['name']) ? ['name' => trim($in['name'])] : [],
            ...array_key_exists('may_change', $in) ? ['may_change' => $request->boolean('may_change')] : [],
            ...array_key_exists('members_seen', $in) ? ['members_seen' => $request->boolean('members_seen')] : [],
        ];
    }
}
