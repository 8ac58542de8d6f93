<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Alerts\AlertCases;
use App\Alerts\AlertRun;
use App\Models\Alert;
use App\Models\Programme;
use App\People\SignedIn;
use App\Rights\Viewer;
use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use OpenApi\Attributes as OA;
use PinYard\Alert\AlertPlan;
use PinYard\Refused;
use stdClass;

final class AlertController
{
    /** Of a programme. */
    private const MOST = 100;

    #[
        OA\Get(
            path: '/api/v1/programmes/{programme}/alerts',
            summary: 'The alerts of a programme, each with when it last told something',
            tags: ['Alerts'],
            responses: [new OA\Response(response: 200, description: 'The alerts')],
        ),
    ]
    public function index(Programme $programme): JsonResponse
    {
        $alerts = $programme->alerts()->orderBy('name')->get();
        /** @var Collection<int, stdClass> $watches */
        $watches = DB::table('alert_watches')->whereIn('alert_id', $alerts->pluck('id'))
            ->groupBy('alert_id')->selectRaw('alert_id, max(told_at) as told_at')->get()->keyBy('alert_id');

        return new JsonResponse($alerts->map(
            static fn (Alert $a): array => self::present($a, $watches[$a->id]->told_at ?? null),
        )->all());
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/alerts',
            summary: 'Make an alert',
            description: 'It tells of what begins from then on: what is so already is not told.',
            tags: ['Alerts'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/AlertInput'),
            ),
            responses: [new OA\Response(response: 201, description: 'The alert')],
        ),
    ]
    public function store(Request $request, Programme $programme): JsonResponse
    {
        if ($programme->alerts()->count() >= self::MOST) {
            throw Refused::because('alerts_most', null, null, ['most' => self::MOST]);
        }
        $plan = self::plan($request, $programme);
        $alert = $programme->alerts()->create(self::stored($plan));
        AlertRun::of($alert->id);

        return new JsonResponse(self::present($alert->refresh(), null), 201);
    }

    #[
        OA\Post(
            path: '/api/v1/programmes/{programme}/alerts/try',
            summary: 'How it stands now with what an alert would be for',
            tags: ['Alerts'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/AlertInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'In words')],
        ),
    ]
    public function try(Request $request, Programme $programme): JsonResponse
    {
        $plan = AlertRun::plan(['name' => '-'] + (array) $request->json()->all(), $programme);
        $cases = new AlertCases($plan->rule, $programme, Viewer::person(SignedIn::of($request)));

        return new JsonResponse(['stands' => $cases->standing()]);
    }

    #[
        OA\Put(
            path: '/api/v1/alerts/{alert}',
            summary: 'Change an alert',
            description: 'Of another rule it tells what begins from then on.',
            tags: ['Alerts'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/AlertInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'The alert')],
        ),
    ]
    public function update(Request $request, Alert $alert): JsonResponse
    {
        $plan = self::plan($request, $alert->programme);
        $alert->update(self::stored($plan));
        AlertRun::of($alert->id);

        return new JsonResponse(self::present($alert->refresh(), self::toldAt($alert)));
    }

    #[
        OA\Patch(
            path: '/api/v1/alerts/{alert}',
            summary: 'Let an alert keep still, or tell again',
            description: 'What began while it was still is not told afterwards.',
            tags: ['Alerts'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['paused'],
                    properties: [new OA\Property(property: 'paused', type: 'boolean')],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The alert')],
        ),
    ]
    public function pause(Request $request, Alert $alert): JsonResponse
    {
        $paused = $request->json('paused');
        if (! is_bool($paused)) {
            throw Refused::because('must_be_yes_no', 'paused');
        }
        $told = self::toldAt($alert);
        DB::transaction(static function () use ($alert, $paused): void {
            $now = Alert::query()->lockForUpdate()->findOrFail($alert->id);
            if ($now->paused !== $paused) {
                DB::table('alert_watches')->where('alert_id', $now->id)->delete();
                $now->forceFill(['paused' => $paused, 'seen' => null, 'waits' => false])->save();
            }
        });
        AlertRun::of($alert->id);

        return new JsonResponse(self::present($alert->refresh(), $told));
    }

    #[
        OA\Delete(
            path: '/api/v1/alerts/{alert}',
            summary: 'Delete an alert, and what it told',
            tags: ['Alerts'],
            responses: [new OA\Response(response: 204, description: 'It is gone')],
        ),
    ]
    public function destroy(Alert $alert): Response
    {
        $alert->delete();

        return new Response(status: 204);
    }

    /**
     * What can be worked out now.
     *
     * @throws Refused
     */
    private static function plan(Request $request, Programme $programme): AlertPlan
    {
        $plan = AlertRun::plan($request->json()->all(), $programme);
        // Whoever makes it hears at once what is in its way.
        new AlertCases($plan->rule, $programme, Viewer::person(SignedIn::of($request)));

        return $plan;
    }

    /** @return array<string, mixed> */
    private static function stored(AlertPlan $plan): array
    {
        $document = $plan->toArray();
        unset($document['name']);

        return ['name' => $plan->name, 'plan' => $document];
    }

    private static function toldAt(Alert $alert): ?string
    {
        $at = DB::table('alert_watches')->where('alert_id', $alert->id)->max('told_at');

        return is_string($at) ? $at : null;
    }

    /** @return array<string, mixed> */
    private static function present(Alert $alert, ?string $told): array
    {
        return [
            'id' => $alert->id,
            'name' => $alert->name,
            'paused' => $alert->paused,
            'waits' => $alert->waits,
            'trouble' => Texts::keptProblem($alert->trouble),
            'told_at' => $told === null ? null : str_replace(' ', 'T', $told).'Z',
        ] + $alert->plan;
    }
}
