<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Problems;
use App\People\AddressChange;
use App\People\Passwords;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Problem;

/** Another mail address for one's account. */
final class AddressController
{
    #[
        OA\Post(
            path: '/api/v1/me/address',
            summary: 'Have a link mailed to another address, which is mine when it is opened',
            description: 'Answers alike whether another account has the address or not.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['email', 'password'],
                    properties: [
                        new OA\Property(property: 'email', type: 'string'),
                        new OA\Property(property: 'password', type: 'string'),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 202, description: 'A mail is on its way')],
        ),
    ]
    public function ask(Request $request): JsonResponse|Response
    {
        $in = $request->validate([
            'email' => ['required', 'string', 'email', 'max:190'],
            'password' => ['required', 'string', 'max:1000'],
        ]);
        $user = SignedIn::of($request);
        if (! Passwords::fits($user, $in['password'])) {
            return Problems::stop(422, new Problem('password_wrong', 'password'));
        }
        AddressChange::ask($user, mb_strtolower(trim($in['email'])));

        return new Response('', 202);
    }

    #[
        OA\Get(
            path: '/api/v1/address/{token}',
            summary: 'Whose address a mailed link changes, and to what',
            tags: ['People'],
            responses: [
                new OA\Response(response: 200, description: 'Name and address'),
                new OA\Response(response: 404, description: 'It was used, or is too old'),
            ],
        ),
    ]
    public function show(string $token): JsonResponse
    {
        return new JsonResponse(AddressChange::of($token) ?? abort(404));
    }

    #[
        OA\Post(
            path: '/api/v1/address/{token}',
            summary: 'From now on it is the address of the account',
            tags: ['People'],
            responses: [new OA\Response(response: 204, description: 'It is the new one')],
        ),
    ]
    public function use(string $token): Response
    {
        AddressChange::use($token) || abort(404);

        return response()->noContent();
    }
}
