<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\Audit;
use App\Models\Programme;
use App\People\Inviting;
use App\People\SignedIn;
use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Refused;

/** Asks people into a programme. */
final class InvitationController
{
    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/people',
            summary: 'Invite a person',
            description: 'The address in the answer is shown this once; only a hash of it is kept.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['name', 'email', 'role'],
                    properties: [
                        new OA\Property(property: 'name', type: 'string'),
                        new OA\Property(property: 'email', type: 'string', format: 'email'),
                        new OA\Property(
                            property: 'role',
                            type: 'string',
                            enum: ['coordinator', 'maker', 'crew', 'guest'],
                        ),
                        new OA\Property(property: 'makes', type: 'boolean'),
                        new OA\Property(property: 'groups', type: 'array', items: new OA\Items(type: 'integer')),
                        new OA\Property(
                            property: 'crew',
                            description: 'name of the crew, made if it is new',
                            type: 'string',
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The address to hand to the person')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        $in = $request->validate([
            'name' => ['required', 'string', 'max:120'],
            'email' => ['required', 'email:filter', 'max:190'],
            ...self::WHAT,
        ]);

        return new JsonResponse([
            'address' => Inviting::of(SignedIn::of($request), $programme, self::what($request, $in))
                ->person($in['name'], $in['email']),
        ], 201);
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/people/several',
            summary: 'Invite everybody in a pasted list',
            description: 'One in each line: a name and an address in whatever order. Whoever belongs to the programme '
                .'already is put into the groups. Each line gets its own answer.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['text', 'role'],
                    properties: [
                        new OA\Property(property: 'text', type: 'string', maxLength: 60_000),
                        new OA\Property(
                            property: 'role',
                            type: 'string',
                            enum: ['coordinator', 'maker', 'crew', 'guest'],
                        ),
                        new OA\Property(property: 'makes', type: 'boolean'),
                        new OA\Property(property: 'crew', type: 'string', nullable: true),
                        new OA\Property(property: 'groups', type: 'array', items: new OA\Items(type: 'integer')),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'What became of each line')],
        ),
    ]
    public function several(Request $request, Programme $programme): JsonResponse
    {
        $in = $request->validate(['text' => ['required', 'string', 'max:60000'], ...self::WHAT]);
        $lines = Inviting::of(SignedIn::of($request), $programme, self::what($request, $in))->several($in['text']);

        return new JsonResponse(
            array_map(
                static fn (array $line): array => ['problem' => $line['problem'] === null
                    ? null
                    : Texts::problems([$line['problem']])[0]['message']] + $line,
                $lines,
            ),
            201,
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/invitations',
            summary: 'An invitation for many: a link, and a code to type',
            description: 'Whoever has it says who they are. It leads to crews and guests alone.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['role', 'most'],
                    properties: [
                        new OA\Property(property: 'role', type: 'string', enum: ['crew', 'guest']),
                        new OA\Property(property: 'most', description: 'people', type: 'integer', minimum: 2),
                        new OA\Property(property: 'crew', type: 'string', nullable: true),
                        new OA\Property(property: 'groups', type: 'array', items: new OA\Items(type: 'integer')),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The address and the code, shown this once')],
        ),
    ]
    public function many(Request $request, Programme $programme): JsonResponse
    {
        $in = $request->validate(['most' => ['required', 'integer', 'between:2,'.Inviting::MOST], ...self::WHAT]);

        return new JsonResponse(
            Inviting::of(SignedIn::of($request), $programme, self::what($request, $in))->many((int) $in['most']),
            201,
        );
    }

    #[
        OA\Delete(
            path: '/api/v1/programmes/{programme}/invitations/{invitation}',
            summary: 'Take an invitation back; its links lead nowhere from then on',
            tags: ['People'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function takeBack(Programme $programme, int $invitation): Response
    {
        $back = $programme->invitations()->whereNull('accepted_at')->findOrFail($invitation);
        $back->delete();
        Audit::note($programme->id, 'invitation_back', ['name' => $back->name, 'email' => $back->email]);

        return response()->noContent();
    }

    /** What somebody is to be who is asked in. */
    private const WHAT = [
        'role' => ['required', 'in:coordinator,maker,crew,guest'],
        'makes' => ['sometimes', 'boolean'],
        'crew' => ['nullable', 'string', 'max:80'],
        'groups' => ['sometimes', 'array', 'max:60'],
        'groups.*' => ['integer'],
    ];

    /**
     * @param  array<string, mixed>  $in
     * @return array{role: string, makes: bool, crew: string|null, groups: list<int>}
     */
    private static function what(Request $request, array $in): array
    {
        return [
            'role' => (string) $in['role'],
            'makes' => $request->boolean('makes'),
            'crew' => $in['crew'] ?? null,
            'groups' => is_array($in['groups'] ?? [])
                ? array_values(array_map(intval(...), $in['groups'] ?? []))
                // An empty text is none, and passes for one.
                : throw Refused::because('must_be_list', 'groups'),
        ];
    }
}
