<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Audit\Audit;
use App\Mailing\Letter;
use App\Models\FormerMember;
use App\Models\Invitation;
use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\People\SecondFactor;
use App\People\SignedIn;
use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
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
                ->with(['user', 'crew', 'groups'])
                ->get()
                ->map(
                    static fn (Member $m): array => [
                        'id' => $m->id,
                        'name' => $m->user->name,
                        'email' => $m->user->email,
                        'role' => $m->role->value,
                        'makes' => $m->makes,
                        'second_factor' => SecondFactor::isAskedOf($m->user),
                        'groups' => $m->groups->pluck('id')->all(),
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
                        'id' => $i->id,
                        'name' => $i->name,
                        'email' => $i->email,
                        'role' => $i->role->value,
                        'most' => $i->most,
                        'used' => $i->used,
                        'groups' => $i->groups ?? [],
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
            $members = $programme->members()->with(['user', 'crew'])->lockForUpdate()->get();
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
            Audit::note($programme->id, 'person_left', ['name' => $leaving->user->name]);
        });

        return response()->noContent();
    }

    #[
        OA\Patch(
            path: '/api/v1/programmes/{programme}/people/{member}',
            summary: 'Change what a person is in a programme',
            description: 'What they brought stays theirs, and what is still on their phone is taken in.',
            tags: ['People'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    properties: [
                        new OA\Property(
                            property: 'role',
                            type: 'string',
                            enum: ['coordinator', 'maker', 'crew', 'guest'],
                        ),
                        new OA\Property(property: 'makes', type: 'boolean'),
                        new OA\Property(
                            property: 'crew',
                            description: 'name of the crew, made if it is new; null: of none',
                            type: 'string',
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 204, description: 'Changed')],
        ),
    ]
    public function update(Request $request, Programme $programme, int $member): Response
    {
        $in = $request->validate([
            'role' => ['sometimes', 'filled', Rule::enum(Role::class)],
            'makes' => ['sometimes', 'filled', 'boolean'],
            'crew' => ['sometimes', 'nullable', 'string', 'max:80'],
        ]);
        DB::transaction(static function () use ($request, $programme, $member, $in): void {
            // Locked, so that two coordinators cannot make crew of each other.
            $members = $programme->members()->with(['user', 'crew'])->lockForUpdate()->get();
            $person = $members->find($member) ?? abort(404);
            $role = isset($in['role']) ? Role::from($in['role']) : $person->role;
            if ($person->coordinates() && $role !== Role::Coordinator
                && $members->where('role', Role::Coordinator)->count() === 1) {
                throw Refused::because('last_coordinator', 'role');
            }
            $crew = trim((string) ($in['crew'] ?? ''));
            if ($crew !== '' && $programme->groups()->where('name', $crew)->exists()) {
                throw Refused::because('group_name_taken', 'crew', $crew);
            }
            $was = [$person->role, $person->makes, $person->crew?->name];
            $person->update([
                'role' => $role,
                'makes' => $request->has('makes') ? $request->boolean('makes') : $person->makes,
                'crew_id' => array_key_exists('crew', $in)
                    ? ($crew === '' ? null : $programme->crews()->firstOrCreate(['name' => $crew])->id)
                    : $person->crew_id,
            ]);
            DB::table('programmes')->where('id', $programme->id)->update(['designs' => random_int(1, PHP_INT_MAX)]);
            self::tell($request, $programme, $person->refresh(), ...$was);
        });

        return response()->noContent();
    }

    /** Notes what has become another, and writes to the person where it is their role. */
    private static function tell(
        Request $request,
        Programme $programme,
        Member $person,
        Role $role,
        bool $makes,
        ?string $crew,
    ): void {
        $name = $person->user->name;
        if ($person->role !== $role || $person->makes !== $makes) {
            Audit::note($programme->id, 'role', [
                'name' => $name,
                'role' => $person->role->value,
                'was' => $role->value,
                'makes' => $person->mayMake() ? 'yes' : 'no',
            ]);
        }
        if ($person->crew?->name !== $crew) {
            Audit::note($programme->id, 'crew', ['name' => $name, 'crew' => $person->crew?->name, 'was' => $crew]);
        }
        if ($person->role !== $role && $person->user_id !== SignedIn::of($request)->id
            && $person->user->wantsMail('roles')) {
            $language = $person->user->language;
            $said = static fn (string $key): string => Texts::in($language, static fn (): string => Texts::of($key));
            $words = [
                'name' => $name,
                'programme' => $programme->name,
                'by' => SignedIn::of($request)->name,
                'role' => $said("role.{$person->role->value}"),
                'what' => $said("role.{$person->role->value}.what"),
                'address' => config('app.url').'/desk',
            ];
            $to = $person->user->email;
            // Behind the answer, so that a slow mail server holds up nobody's rights.
            dispatch(static fn () => Letter::send($to, $language, 'mail.role', $words))->afterCommit();
        }
    }
}
