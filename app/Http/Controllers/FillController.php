<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Fills\FillPlan;
use App\Fills\RunFill;
use App\Models\Fill;
use App\Models\Layer;
use App\People\SignedIn;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Refused;

final class FillController
{
    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/fills/preview',
            summary: 'What a formula written into a field would change, for ten records',
            tags: ['Formulas'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/FillInput'),
            ),
            responses: [new OA\Response(response: 200, description: 'Before and after')],
        ),
    ]
    public function preview(Request $request, Layer $layer): JsonResponse
    {
        return new JsonResponse($this->plan($request, $layer)->preview());
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/fills',
            summary: 'Write a formula into a field for all records or those of a slice',
            tags: ['Formulas'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/FillInput'),
            ),
            responses: [new OA\Response(response: 201, description: 'The fill; large ones go on in the background')],
        ),
    ]
    public function store(Request $request, Layer $layer): JsonResponse
    {
        $plan = $this->plan($request, $layer);
        $fill = Fill::query()->create([
            'layer_id' => $layer->id,
            'field' => $plan->field->key,
            'formula' => $plan->formula->text,
            'slice_id' => $plan->slice?->id,
            'user_id' => SignedIn::of($request)->id,
            'state' => 'working',
        ]);
        RunFill::soon($fill);

        return new JsonResponse($this->present($fill->refresh()), 201);
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/fills/{fill}',
            summary: 'How a fill is getting on',
            tags: ['Formulas'],
            responses: [new OA\Response(response: 200, description: 'The fill')],
        ),
    ]
    public function show(Layer $layer, int $fill): JsonResponse
    {
        return new JsonResponse($this->present($this->find($layer, $fill)));
    }

    #[
        OA\Delete(
            path: '/api/v1/layers/{layer}/fills/{fill}',
            summary: 'Undo a fill; records that were changed since stay as they are',
            tags: ['Formulas'],
            responses: [new OA\Response(response: 200, description: 'The fill, undone')],
        ),
    ]
    public function destroy(Request $request, Layer $layer, int $fill): JsonResponse
    {
        $found = $this->find($layer, $fill);
        if ($found->state !== 'done') {
            throw Refused::because('fill_state', 'fill', $found->state);
        }
        RunFill::undo($found, SignedIn::of($request));

        return new JsonResponse($this->present($found));
    }

    private function plan(Request $request, Layer $layer): FillPlan
    {
        return FillPlan::of(
            $layer,
            $request->json('field'),
            $request->json('formula'),
            $request->json('slice'),
            SignedIn::of($request)->id,
        );
    }

    private function find(Layer $layer, int $fill): Fill
    {
        return Fill::query()->where('layer_id', $layer->id)->findOrFail($fill);
    }

    /** @return array<string, mixed> */
    private function present(Fill $fill): array
    {
        return [
            'id' => $fill->id,
            'state' => $fill->state,
            'field' => $fill->field,
            'changed' => $fill->changed,
            'skipped' => $fill->skipped,
            'kept' => $fill->kept,
        ];
    }
}
