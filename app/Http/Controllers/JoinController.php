<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Invitation;
use App\People\Joining;
use App\People\KnownDevice;
use App\People\SecondFactor;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use OpenApi\Attributes as OA;

/** A person who was invited opens the link and chooses a password, or gives the one of the account that is there. */
final class JoinController
{
    #[
        OA\Get(
            path: '/api/v1/join/{token}',
            summary: 'What an invitation is for',
            tags: ['People'],
            responses: [new OA\Response(response: 200, description: 'The invitation')],
        ),
    ]
    public function show(string $token): JsonResponse
    {
        $invitation = Invitation::open($token) ?? abort(404);

        return new JsonResponse([
            'programme' => $invitation->programme->name,
            'name' => $invitation->name,
            'email' => $invitation->email,
            'role' => $invitation->role->value,
            'many' => $invitation->most !== null,
        ]);
    }

    #[
        OA\Post(
            path: '/api/v1/join/{token}',
            summary: 'Accept an invitation',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['password'],
                    properties: [
                        new OA\Property(property: 'password', type: 'string', minLength: 12),
                        new OA\Property(property: 'name', description: 'of one for many', type: 'string'),
                        new OA\Property(property: 'email', description: 'of one for many', type: 'string'),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'Joined and signed in')],
        ),
    ]
    public function store(Request $request, string $token): JsonResponse
    {
        $in = $request->validate([
            'password' => ['required', 'string', 'max:1000'],
            'name' => ['sometimes', 'string', 'max:400'],
            'email' => ['sometimes', 'string', 'max:400'],
        ]);
        $user = Joining::accept($token, $in['password'], $in['name'] ?? '', $in['email'] ?? '');
        // An invitation is no way around a second factor: who has one signs in after it.
        if (! SecondFactor::isAskedOf($user)) {
            Auth::login($user);
            $request->session()->regenerate();
            KnownDevice::remember($request, $user->email);
        }

        return new JsonResponse(['ok' => true], 201);
    }
}
