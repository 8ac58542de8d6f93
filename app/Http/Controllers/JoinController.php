<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Http\Problems;
use App\Models\Invitation;
use App\Models\User;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use OpenApi\Attributes as OA;
use PinYard\Problem;

/** A person who was invited opens the link and chooses a password, or gives the one of the account that is there. */
final class JoinController
{
    #[OA\Get(path: '/api/v1/join/{token}', summary: 'What an invitation is for', tags: ['People'], responses: [new OA\Response(response: 200, description: 'The invitation')])]
    public function show(string $token): JsonResponse
    {
        $invitation = Invitation::open($token) ?? abort(404);

        return new JsonResponse([
            'programme' => $invitation->programme->name,
            'name' => $invitation->name,
            'email' => $invitation->email,
            'role' => $invitation->role->value,
            'has_account' => User::query()->where('email', $invitation->email)->exists(),
        ]);
    }

    #[OA\Post(path: '/api/v1/join/{token}', summary: 'Accept an invitation', tags: ['People'], requestBody: new OA\RequestBody(required: true, content: new OA\JsonContent(required: ['password'], properties: [
        new OA\Property(property: 'password', type: 'string', minLength: 10),
    ])), responses: [new OA\Response(response: 201, description: 'Joined and signed in')])]
    public function store(Request $request, string $token): JsonResponse
    {
        $password = $request->validate(['password' => ['required', 'string', 'min:10', 'max:200']])['password'];
        $user = DB::transaction(function () use ($token, $password): ?User {
            $invitation = Invitation::open($token) ?? abort(404);
            $user = User::query()->where('email', $invitation->email)->first();
            if ($user !== null && ! Hash::check($password, $user->password)) {
                return null;
            }
            $user ??= User::query()->create(['name' => $invitation->name, 'email' => $invitation->email, 'password' => $password]);
            $invitation->programme->members()->updateOrCreate(
                ['user_id' => $user->id],
                ['role' => $invitation->role, 'crew_id' => $invitation->crew_id],
            );
            $invitation->forceFill(['accepted_at' => now()])->save();

            return $user;
        });
        if ($user === null) {
            return Problems::stop(422, new Problem('sign_in_wrong', 'password'));
        }
        Auth::login($user, true);
        $request->session()->regenerate();

        return new JsonResponse(['ok' => true], 201);
    }
}
