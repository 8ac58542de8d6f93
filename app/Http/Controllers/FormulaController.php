<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Fills\FormulaTrial;
use App\Models\Layer;
use App\People\SignedIn;
use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Formula\Functions;

final class FormulaController
{
    #[
        OA\Get(
            path: '/api/v1/formulas/functions',
            summary: 'Functions of formulas, in groups, with how to write them',
            tags: ['Formulas'],
            responses: [new OA\Response(response: 200, description: 'The groups')],
        ),
    ]
    public function functions(): JsonResponse
    {
        $groups = [];
        foreach (Functions::GROUPS as $group => $names) {
            $groups[] = [
                'key' => $group,
                'label' => Texts::of("functions.$group"),
                'functions' => array_map(
                    static fn (string $name): array => [
                        'name' => $name,
                        'write' => Texts::of("function.$name"),
                        'hint' => Texts::of("function.$name.hint"),
                    ],
                    $names,
                ),
            ];
        }

        return new JsonResponse(['groups' => $groups]);
    }

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/formulas/try',
            summary: 'Check a formula against a design and work it out for some records',
            tags: ['Formulas'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    required: ['formula'],
                    properties: [
                        new OA\Property(property: 'formula', type: 'string'),
                        new OA\Property(
                            property: 'design',
                            description: 'a draft; without it the current design',
                            ref: '#/components/schemas/LayerDesign',
                        ),
                        new OA\Property(
                            property: 'gives',
                            description: 'what it must give',
                            type: 'string',
                            enum: ['yes_no'],
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [
                new OA\Response(response: 200, description: 'What it gives, and its values for the newest records'),
            ],
        ),
    ]
    public function try(Request $request, Layer $layer): JsonResponse
    {
        return new JsonResponse(
            FormulaTrial::of(
                $layer,
                SignedIn::of($request),
                $request->json('design'),
                $request->json('formula'),
                $request->json('gives') === 'yes_no',
            ),
        );
    }
}
