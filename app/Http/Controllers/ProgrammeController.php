<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\Onlooker;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\People\SecondFactor;
use App\People\SignedIn;
use App\Programmes\Catalogue;
use App\Programmes\Stages;
use App\Programmes\Usage;
use App\Trails\TrailDays;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;
use PinYard\Geo\Box;
use PinYard\Refused;

final class ProgrammeController
{
    #[
        OA\Get(
            path: '/api/v1/programmes',
            summary: 'Programmes that I take part in',
            tags: ['Programmes'],
            responses: [new OA\Response(response: 200, description: 'The programmes')],
        ),
    ]
    public function index(Request $request): JsonResponse
    {
        $person = SignedIn::of($request);
        $programmes = Programme::query()
            ->when(
                $person instanceof Onlooker,
                static fn ($q) => $q->whereKey($person instanceof Onlooker ? $person->programmeNumber() : 0),
                static fn ($q) => $q->whereRelation('members', 'user_id', $person->id),
            )
            ->with('owner')
            ->orderBy('name')
            ->get();
        Programme::knowMembers($programmes, SignedIn::of($request));

        $stars = Catalogue::stars(SignedIn::of($request));

        return new JsonResponse(
            $programmes
                ->map(
                    fn (Programme $p): array => $this->present($p, SignedIn::of($request)) +
                        Catalogue::present('programme', $p, $stars),
                )
                ->all(),
        );
    }

    #[
        OA\Post(
            path: '/api/v1/programmes',
            summary: 'Start a programme',
            tags: ['Programmes'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/ProgrammeInput'),
            ),
            responses: [new OA\Response(response: 201, description: 'The new programme')],
        ),
    ]
    public function store(Request $request): JsonResponse
    {
        $input = self::read($request, 'required');
        $programme = DB::transaction(function () use ($input, $request): Programme {
            $programme = Programme::query()->create(
                $input + ['purpose' => '', 'owner_id' => SignedIn::of($request)->id],
            );
            $programme->members()->create(['user_id' => SignedIn::of($request)->id, 'role' => Role::Coordinator]);

            return $programme;
        });

        return new JsonResponse($this->present($programme, SignedIn::of($request)), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}',
            summary: 'A programme with what wants attention in each stage',
            tags: ['Programmes'],
            responses: [new OA\Response(response: 200, description: 'The programme')],
        ),
    ]
    public function show(Request $request, Programme $programme): JsonResponse
    {
        return new JsonResponse(
            $this->present($programme, SignedIn::of($request)) + [
                'stages' => Stages::of($programme, SignedIn::of($request)),
            ],
        );
    }

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/storage',
            summary: 'How much disk a programme takes, and may take',
            tags: ['Programmes'],
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'Bytes: files of records, what was brought in, what was taken out, quota, free',
                ),
            ],
        ),
    ]
    public function storage(Programme $programme): JsonResponse
    {
        return new JsonResponse(Usage::of($programme));
    }

    #[
        OA\Patch(
            path: '/api/v1/programmes/{programme}',
            summary: 'Change a programme',
            tags: ['Programmes'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/ProgrammeInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'The programme')],
        ),
    ]
    public function update(Request $request, Programme $programme): JsonResponse
    {
        if (is_bool($request->json('second_factor'))) {
            SecondFactor::demand($programme, $request->json('second_factor'), SignedIn::of($request));
        }
        $programme->update(self::read($request, 'sometimes'));
        if ($programme->wasChanged('time_zone')) {
            TrailDays::refresh($programme);
        }

        return new JsonResponse($this->present($programme, SignedIn::of($request)));
    }

    /**
     * @return array<string, mixed>
     *
     * @throws Refused
     */
    private static function read(Request $request, string $presence): array
    {
        $in = $request->validate([
            'name' => [$presence, 'filled', 'string', 'max:120'],
            'purpose' => ['sometimes', 'nullable', 'string', 'max:2000'],
            'time_zone' => [$presence, 'filled', 'timezone:all'],
            'area' => [$presence, 'filled', 'array'],
            'photo_edge' => ['sometimes', 'nullable', 'integer', 'between:640,12000'],
        ]);
        if (array_key_exists('purpose', $in)) {
            $in['purpose'] = (string) $in['purpose'];
        }
        // Nothing is written for none.
        if (($in['photo_edge'] ?? null) === '') {
            $in['photo_edge'] = null;
        }
        if (isset($in['area'])) {
            $sides = array_values($in['area']);
            $box = Box::of($sides[0] ?? null, $sides[1] ?? null, $sides[2] ?? null, $sides[3] ?? null);
            unset($in['area']);
            $in += ['west' => $box->west, 'south' => $box->south, 'east' => $box->east, 'north' => $box->north];
        }

        return $in;
    }

    /** @return array<string, mixed> */
    private function present(Programme $programme, User $user): array
    {
        return [
            'id' => $programme->id,
            'name' => $programme->name,
            'purpose' => $programme->purpose,
            'time_zone' => $programme->time_zone,
            'area' => $programme->area()->toArray(),
            'photo_edge' => $programme->photo_edge,
            'second_factor' => $programme->second_factor,
            'role' => $programme->memberFor($user)?->role->value,
            'makes' => $programme->memberFor($user)?->mayMake() === true,
        ];
    }
}
