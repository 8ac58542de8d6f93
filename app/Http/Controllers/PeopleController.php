<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Mailing\Letter;
use App\Models\FormerMember;
use App\Models\Invitation;
use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use Illuminate\Validation\Rule;
use OpenApi\Attributes as OA;
use PinYard\Refused;

final class PeopleController
{
    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/people',
            summary: 'People, crews, and invitations that are still open',
            tags: ['People'],
            responses: [new OA\Response(response: 200, description: 'The people')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        return new JsonResponse([
            'people' => $programme
                ->members()
                ->with(['user', 'crew'])
                ->get()
                ->map(
                    static fn (Member $m): array => [
                        'id' => $m->id,
                        'name' => $m->user->name,
                        'email' => $m->user->email,
                        'role' => $m->role->value,
                        'crew' => $m->crew?->name,
                        'last_heard_at' => $m->last_heard_at?->toIso8601ZuluString(),
                        'waiting' => $m->waiting,
                        'place' => $m->last_place_at === null
                                ? null
                                : [
                                    'lon' => $m->last_lon,
                                    'lat' => $m->last_lat,
                                    'at' => $m->last_place_at->toIso8601ZuluString(),
                                ],
                        'battery' => $m->battery,
                    ],
                )
                ->sortBy([['role', 'asc'], ['crew', 'asc'], ['name', 'asc']])
                ->values()
                ->all(),
            'crews' => $programme
                ->crews()
                ->orderBy('name')
                ->get(['id', 'name']),
            'invitations' => $programme
                ->invitations()
                ->whereNull('accepted_at')
                ->where('expires_at', '>', now())
                ->get()
                ->map(
                    static fn (Invitation $i): array => [
                        'name' => $i->name,
                        'email' => $i->email,
                        'role' => $i->role->value,
                        'expires_at' => $i->expires_at->toIso8601ZuluString(),
                    ],
                )
                ->all(),
        ]);
    }

    #[
        OA\Delete(
            path: '/api/v1/programmes/{programme}/people/{member}',
            summary: 'A person leaves the programme',
            description: 'The phone gives up its copy at its next round. What was done on it before is still taken '
                .'in, and held for a coordinator.',
            tags: ['People'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function destroy(Programme $programme, int $member): Response
    {
        DB::transaction(static function () use ($programme, $member): void {
            // Locked, so that two coordinators cannot take each other out.
            $members = $programme->members()->lockForUpdate()->get();
            $leaving = $members->find($member) ?? abort(404);
            if ($leaving->role === Role::Coordinator && $members->where('role', Role::Coordinator)->count() === 1) {
                throw Refused::because('last_coordinator', 'member');
            }
            FormerMember::query()->create([
                ...$leaving->only(['programme_id', 'user_id', 'crew_id']),
                'role' => $leaving->role,
                'left_at' => now()->format('Y-m-d H:i:s.v'),
            ]);
            $leaving->delete();
        });

        return response()->noContent();
    }

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
                        new OA\Property(property: 'role', type: 'string', enum: ['coordinator', 'crew']),
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
            'role' => ['required', Rule::enum(Role::class)],
            'crew' => ['nullable', 'string', 'max:80'],
        ]);
        $crew =
            isset($in['crew']) && trim($in['crew']) !== ''
                ? $programme->crews()->firstOrCreate(['name' => trim($in['crew'])])
                : null;
        // Two links: the one that is shown to hand over, and one that only who reads that mail can have.
        [$token, $mailed] = [Str::random(32), Str::random(32)];
        $programme->invitations()->create([
            'token_hash' => hash('sha256', $token),
            'mail_token_hash' => hash('sha256', $mailed),
            'crew_id' => $crew?->id,
            'name' => $in['name'],
            'email' => mb_strtolower($in['email']),
            'role' => $in['role'],
            'expires_at' => now()->addDays(14),
        ]);

        Letter::send(mb_strtolower($in['email']), 'mail.invite', [
            'name' => $in['name'],
            'programme' => $programme->name,
            'by' => SignedIn::of($request)->name,
            'address' => config('app.url')."/join/$mailed",
        ]);

        return new JsonResponse(['address' => "/join/$token"], 201);
    }
}
