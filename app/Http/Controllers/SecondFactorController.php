<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\Audit;
use App\Http\Problems;
use App\People\AccountNews;
use App\People\Passwords;
use App\People\SecondFactor;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use OpenApi\Attributes as OA;
use PinYard\Problem;

/** The second factor of whoever is signed in. Each step asks for the password, or for a code of the app. */
final class SecondFactorController
{
    #[
        OA\Post(
            path: '/api/v1/me/second-factor',
            summary: 'Begin with an authenticator app: its secret, as text and as the address of a QR code',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['password'],
                    properties: [new OA\Property(property: 'password', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 201, description: 'The secret; nothing is asked for yet')],
        ),
    ]
    public function begin(Request $request): JsonResponse
    {
        return self::knows($request)
            ? new JsonResponse(SecondFactor::begin(SignedIn::of($request)), 201)
            : self::wrong();
    }

    #[
        OA\Put(
            path: '/api/v1/me/second-factor',
            summary: 'Show that the app knows the secret: from now on a code is asked for',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['code'],
                    properties: [new OA\Property(property: 'code', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'Codes to write down, told this once')],
        ),
    ]
    public function confirm(Request $request): JsonResponse
    {
        $in = $request->validate(['code' => ['required', 'string', 'max:40']]);
        $codes = SecondFactor::confirm(SignedIn::of($request), $in['code']);
        Audit::note(null, 'second_on', []);
        $user = SignedIn::of($request);
        AccountNews::tell($user->email, $user, AccountNews::SECOND_ON);

        return new JsonResponse(['codes' => $codes]);
    }

    #[
        OA\Delete(
            path: '/api/v1/me/second-factor',
            summary: 'Do without the second factor again',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['password'],
                    properties: [new OA\Property(property: 'password', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 204, description: 'No code is asked for any more')],
        ),
    ]
    public function end(Request $request): JsonResponse|Response
    {
        if (! self::knows($request)) {
            return self::wrong();
        }
        $user = SignedIn::of($request);
        SecondFactor::end($user);
        Audit::note(null, 'second_off', []);
        AccountNews::tell($user->email, $user, AccountNews::SECOND_OFF);

        return response()->noContent();
    }

    private static function knows(Request $request): bool
    {
        $in = $request->validate(['password' => ['required', 'string', 'max:1000']]);

        return Passwords::fits(SignedIn::of($request), $in['password']);
    }

    private static function wrong(): JsonResponse
    {
        return Problems::stop(422, new Problem('password_wrong', 'password'));
    }
}
