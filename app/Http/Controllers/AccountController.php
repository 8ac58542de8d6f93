<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\Audit;
use App\Http\Problems;
use App\Language;
use App\Models\User;
use App\People\AccountNews;
use App\People\Devices;
use App\People\Passwords;
use App\People\SendPasswordReset;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;
use PinYard\Problem;
use PinYard\Refused;
use stdClass;

/** What people do with their own account: a new password, where they are signed in. */
final class AccountController
{
    #[
        OA\Post(
            path: '/api/v1/password/forgot',
            summary: 'Have a link mailed by which a new password is chosen',
            description: 'Answers alike whether there is an account or not.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['email'],
                    properties: [new OA\Property(property: 'email', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 202, description: 'If there is an account, a mail is on its way')],
        ),
    ]
    public function forgot(Request $request): Response
    {
        SendPasswordReset::dispatch(
            mb_strtolower(trim($request->validate(['email' => ['required', 'string', 'max:190']])['email'])),
        );

        return new Response('', 202);
    }

    #[
        OA\Get(
            path: '/api/v1/password/{token}',
            summary: 'Whether a mailed link can still be used',
            tags: ['People'],
            responses: [
                new OA\Response(response: 204, description: 'It can'),
                new OA\Response(response: 404, description: 'It was used, or is too old'),
            ],
        ),
    ]
    public function showReset(string $token): Response
    {
        SendPasswordReset::owner($token) ?? abort(404);

        return response()->noContent();
    }

    #[
        OA\Post(
            path: '/api/v1/password/{token}',
            summary: 'Choose a new password',
            description: 'Works once; signs out everywhere.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['password'],
                    properties: [new OA\Property(property: 'password', type: 'string')],
                ),
            ),
            responses: [new OA\Response(response: 204, description: 'It is the new one')],
        ),
    ]
    public function reset(Request $request, string $token): Response
    {
        SendPasswordReset::use(
            $token,
            $request->validate(['password' => ['required', 'string', 'max:1000']])['password'],
        ) ?? abort(404);

        return response()->noContent();
    }

    #[
        OA\Put(
            path: '/api/v1/me/password',
            summary: 'Change my password',
            description: 'All other devices are signed out.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['current', 'password'],
                    properties: [
                        new OA\Property(property: 'current', type: 'string'),
                        new OA\Property(property: 'password', type: 'string'),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 204, description: 'Changed')],
        ),
    ]
    public function change(Request $request): JsonResponse|Response
    {
        $in = $request->validate([
            'current' => ['required', 'string', 'max:1000'],
            'password' => ['required', 'string', 'max:1000'],
        ]);
        $user = SignedIn::of($request);
        if (! Passwords::fits($user, $in['current'])) {
            return Problems::stop(422, new Problem('password_wrong', 'current'));
        }
        Passwords::allow($in['password'], $user->name, $user->email);
        $user->forceFill(['password' => $in['password']])->save();
        Devices::signOutAll($user, $request->session()->getId());
        AccountNews::tell($user->email, $user, AccountNews::PASSWORD);

        return response()->noContent();
    }

    #[
        OA\Patch(
            path: '/api/v1/me',
            summary: 'Change what I am called, which mails I want, in which language I read',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    properties: [
                        new OA\Property(property: 'name', type: 'string', maxLength: 120),
                        new OA\Property(
                            property: 'unwanted_mails',
                            type: 'array',
                            items: new OA\Items(type: 'string', enum: ['alerts', 'roles']),
                        ),
                        new OA\Property(property: 'language', type: 'string', enum: Language::KNOWN),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 204, description: 'Changed')],
        ),
    ]
    public function rename(Request $request): Response
    {
        $in = $request->validate([
            'name' => [$request->hasAny('unwanted_mails', 'language') ? 'sometimes' : 'required', 'string', 'max:120'],
            'language' => ['sometimes', 'filled', 'string', 'in:'.implode(',', Language::KNOWN)],
            'unwanted_mails' => ['sometimes', 'array'],
            'unwanted_mails.*' => ['distinct', 'in:'.implode(',', User::MAILS)],
        ]);
        $user = SignedIn::of($request);
        // All of it, or nothing: what is refused must leave the rest as it was.
        $change = array_intersect_key($in, ['language' => 1]);
        if (isset($in['unwanted_mails'])) {
            // An empty text is none, and passes for one.
            if (! is_array($in['unwanted_mails'])) {
                throw Refused::because('must_be_list', 'unwanted_mails');
            }
            $change['unwanted_mails'] = array_values($in['unwanted_mails']);
        }
        if (isset($in['name'])) {
            // As a name is written, with one space between its parts and none around it.
            $change['name'] = trim((string) preg_replace('/[\s\p{Cc}]+/u', ' ', $in['name']));
            if ($change['name'] === '') {
                throw Refused::because('empty', 'name');
            }
            if ($user->name !== $change['name']) {
                Audit::note(null, 'renamed', ['was' => $user->name, 'name' => $change['name']]);
            }
        }
        $user->forceFill($change)->save();

        return response()->noContent();
    }

    #[
        OA\Get(
            path: '/api/v1/me/devices',
            summary: 'Where I am signed in',
            tags: ['People'],
            responses: [new OA\Response(response: 200, description: 'The devices, the newest first')],
        ),
    ]
    public function devices(Request $request): JsonResponse
    {
        return new JsonResponse(Devices::of(SignedIn::of($request), $request->session()->getId()));
    }

    #[
        OA\Delete(
            path: '/api/v1/me/devices/{device}',
            summary: 'Sign out there',
            tags: ['People'],
            responses: [new OA\Response(response: 204, description: 'Signed out')],
        ),
    ]
    public function signOut(Request $request, string $device): Response
    {
        Devices::signOut(SignedIn::of($request), $device) || abort(404);

        return response()->noContent();
    }

    #[
        OA\Get(
            path: '/api/v1/mail-box',
            summary: 'What would have been mailed (demo alone)',
            tags: ['People'],
            responses: [new OA\Response(response: 200, description: 'The newest mails')],
        ),
    ]
    public function mailBox(): JsonResponse
    {
        // Its letters have keys in them: it is there where all accounts are made up, and nowhere else.
        abort_unless(config('app.demo') && config('mail.default') === 'mailbox', 404);

        return new JsonResponse(
            DB::table('mail_box')
                ->orderByDesc('id')
                ->limit(50)
                ->get(['id', 'to', 'subject', 'text', 'sent_at'])
                ->map(
                    static fn (stdClass $m): array => [
                        ...(array) $m,
                        'sent_at' => str_replace(' ', 'T', (string) $m->sent_at).'Z',
                    ],
                )
                ->all(),
        );
    }

    #[
        OA\Get(
            path: '/api/v1/about',
            summary: 'What a visitor may know of this copy',
            tags: ['People'],
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'Whether it is the demo, with the accounts that everybody knows',
                ),
            ],
        ),
    ]
    public function about(): JsonResponse
    {
        return new JsonResponse(['demo' => config('app.demo')]);
    }
}
