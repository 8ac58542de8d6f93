<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Answers\KeptAnswer;
use App\Audit\Audit;
use App\Http\Polls\Asked;
use App\Http\Problems;
use App\Models\User;
use App\People\KnownDevice;
use App\People\Passwords;
use App\People\SecondFactor;
use App\People\SignedIn;
use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\Auth;
use OpenApi\Attributes as OA;
use PinYard\Problem;

final class SessionController
{
    #[
        OA\Post(
            path: '/api/v1/session',
            summary: 'Sign in',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['email', 'password'],
                    properties: [
                        new OA\Property(property: 'email', type: 'string'),
                        new OA\Property(property: 'password', type: 'string'),
                        new OA\Property(
                            property: 'code',
                            description: 'of the authenticator app, or one that was written down; where asked for',
                            type: 'string',
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'Who is signed in',
                    content: new OA\JsonContent(ref: '#/components/schemas/Me'),
                ),
            ],
        ),
    ]
    public function store(Request $request): JsonResponse
    {
        $sent = $request->validate([
            'email' => ['required', 'string', 'max:190'],
            'password' => ['required', 'string', 'max:1000'],
            'code' => ['sometimes', 'nullable', 'string', 'max:40'],
        ]);
        $user = User::query()->where('email', mb_strtolower(trim($sent['email'])))->first();
        if (! Passwords::fits($user, $sent['password']) || $user === null) {
            if ($user !== null) {
                Audit::note(null, 'sign_in_failed', ['name' => $user->name, 'from' => $request->ip()], $user);
            }

            return Problems::stop(422, new Problem('sign_in_wrong', 'email'));
        }
        if (SecondFactor::isAskedOf($user)) {
            $code = trim((string) ($sent['code'] ?? ''));
            if ($code === '') {
                return Problems::stop(422, new Problem('second_needed', 'code'));
            }
            if (! SecondFactor::takes($user, $code)) {
                Audit::note(null, 'sign_in_failed', ['name' => $user->name, 'from' => $request->ip()], $user);

                return Problems::stop(422, new Problem('second_wrong', 'code'));
            }
        }
        if ($user->language === null) {
            $user->forceFill(['language' => Texts::spoken()])->save();
        }
        // The session itself lasts for months, because a phone may come back after weeks; it ends where it is ended.
        Auth::login($user);
        $request->session()->regenerate();
        KnownDevice::remember($request, $user->email);
        Audit::note(null, 'sign_in', ['name' => $user->name, 'from' => $request->ip()], $user);

        return new JsonResponse(self::told($user, SignedIn::roles($user)));
    }

    #[
        OA\Get(
            path: '/api/v1/me',
            summary: 'Who is signed in, and in which programmes',
            tags: ['People'],
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'The person',
                    content: new OA\JsonContent(ref: '#/components/schemas/Me'),
                ),
                new OA\Response(response: 304, description: 'Nothing has changed'),
            ],
        ),
    ]
    public function show(Request $request): JsonResponse|Response
    {
        $user = SignedIn::of($request);
        $roles = SignedIn::roles($user);

        return KeptAnswer::unlessKnown(
            $request,
            Asked::me($user, $roles),
            static fn (): KeptAnswer => KeptAnswer::told(self::told($user, $roles)),
        );
    }

    /**
     * @param  list<\stdClass>  $roles
     * @return array<string, mixed>
     */
    private static function told(User $user, array $roles): array
    {
        return [
            'id' => $user->id,
            'name' => $user->name,
            'email' => $user->email,
            'second_factor' => SecondFactor::isAskedOf($user),
            'second_demanded' => $user->second_demanded,
            'unwanted_mails' => $user->unwanted_mails ?? [],
            'language' => $user->language,
            'roles' => $roles,
        ];
    }

    #[
        OA\Get(
            path: '/api/v1/signed-in',
            summary: 'Whether somebody is signed in',
            tags: ['People'],
            responses: [
                new OA\Response(response: 204, description: 'Somebody is'),
                new OA\Response(response: 401, description: 'Nobody is'),
            ],
        ),
    ]
    public function signedIn(): Response
    {
        return response()->noContent();
    }

    #[
        OA\Delete(
            path: '/api/v1/session',
            summary: 'Sign out',
            tags: ['People'],
            responses: [new OA\Response(response: 204, description: 'Signed out')],
        ),
    ]
    public function destroy(Request $request): Response
    {
        Auth::logout();
        $request->session()->invalidate();
        $request->session()->regenerateToken();

        return response()->noContent();
    }
}
