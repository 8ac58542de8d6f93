<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Maps\AskedCells;
use App\Maps\FieldSpread;
use App\Maps\Tallies\AreaTallies;
use App\Maps\Tallies\AskedTallies;
use App\Maps\TwoFields;
use App\Models\Layer;
use App\Models\User;
use App\People\SignedIn;
use App\Records\VisibleRecords;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Carto\Look;
use PinYard\Carto\Marks\Density;
use PinYard\Carto\NumberClasses;
use PinYard\Carto\Scheme;
use PinYard\Design\Field;
use PinYard\Refused;
use PinYard\Stats\Classes;
use PinYard\Stats\Method;

/** How the numbers of a field lie, and the look that classes of them make. */
final class ClassesController
{
    private const BARS = 24;

    #[
        OA\Post(
            path: '/api/v1/layers/{layer}/classes',
            summary: 'Classes of the numbers of a field, or of what is told of the records in areas',
            description: 'With breaks of one’s own they are taken as they are; else the method finds them.',
            tags: ['Maps'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(
                    properties: [
                        new OA\Property(property: 'field', type: 'string'),
                        new OA\Property(
                            property: 'of',
                            description: 'In place of a field, of areas: which records, and what of them',
                            type: 'object',
                            nullable: true,
                        ),
                        new OA\Property(
                            property: 'cells',
                            description: 'In place of a field: records counted in the cells of a grid, or a field’s '
                                .'numbers summed: {field, bits, slice}; without bits a fitting size is proposed',
                            type: 'object',
                            nullable: true,
                        ),
                        new OA\Property(
                            property: 'method',
                            type: 'string',
                            enum: ['natural', 'quantile', 'equal', 'deviation', 'round', 'hand'],
                        ),
                        new OA\Property(property: 'count', description: '2 to 9', type: 'integer'),
                        new OA\Property(
                            property: 'scheme',
                            type: 'string',
                            enum: ['tide', 'ember', 'dusk', 'shore'],
                        ),
                        new OA\Property(
                            property: 'breaks',
                            type: 'array',
                            items: new OA\Items(type: 'number'),
                            nullable: true,
                        ),
                    ],
                ),
            ),
            responses: [new OA\Response(response: 200, description: 'The look, the spread, the number in each class')],
        ),
    ]
    public function __invoke(Request $request, Layer $layer): JsonResponse
    {
        $design = $layer->design();
        $person = SignedIn::of($request);
        $of = match (true) {
            $request->json('of') !== null => AskedTallies::of($request->json('of'), $layer, $person),
            $request->json('cells') !== null => AskedCells::of($request->json('cells'), $layer, $person),
            default => self::field($request->json('field'), $layer, $person),
        };
        $method = Method::tryFrom(self::text($request, 'method') ?? 'natural');
        $scheme = Scheme::tryFrom(self::text($request, 'scheme') ?? 'tide');
        $count = $request->json('count') ?? 4;
        if ($method === null || $scheme === null || ! is_int($count) || $count < 2 || $count > Classes::MOST) {
            throw Refused::because('classes_how', 'method', null, ['most' => Classes::MOST]);
        }
        $spread = match (true) {
            $of instanceof AreaTallies => $of->spread(),
            $of instanceof AskedCells => $of->cells()->spread(),
            default => FieldSpread::of(VisibleRecords::for($person, $layer)->showing([$of->key]), $of),
        };
        $given = $request->json('breaks');
        $numbers = is_array($given)
            ? NumberClasses::read(['method' => $method->value, 'scheme' => $scheme->value, 'breaks' => $given])
            : NumberClasses::of($method, $scheme, Classes::breaks($spread, $method, $count));
        $within = Classes::loss($spread, $numbers->breaks);
        $whole = Classes::loss($spread, []);

        $look = match (true) {
            $of instanceof AskedCells => Look::by(
                Density::of($of->density->field, $of->density->bits, $numbers),
                $design->geometry,
            ),
            $of instanceof AreaTallies => Look::byNumbers($of->tally, $numbers, $design->geometry),
            default => Look::byNumbers($of, $numbers, $design->geometry),
        };

        return new JsonResponse([
            'look' => $look->toArray(),
            'counts' => $spread->counts($numbers->breaks),
            'spread' => [
                'count' => $spread->count,
                'missing' => $spread->missing,
                'least' => $spread->count === 0 ? null : $spread->least(),
                'most' => $spread->count === 0 ? null : $spread->most(),
                'mean' => $spread->count === 0 ? null : $spread->mean,
                'bars' => $spread->histogram(self::BARS),
            ],
            // How much of the differences between values the classes tell: 1 where each value is its class's mean.
            'fit' => $whole > 0 ? round(1 - $within / $whole, 4) : null,
        ]);
    }

    #[
        OA\Get(
            path: '/api/v1/layers/{layer}/together',
            summary: 'Whether two numbers of the same records go together: rank correlation, and some pairs to draw',
            tags: ['Maps'],
            parameters: [
                new OA\Parameter(name: 'a', in: 'query', required: true, schema: new OA\Schema(type: 'string')),
                new OA\Parameter(name: 'b', in: 'query', required: true, schema: new OA\Schema(type: 'string')),
            ],
            responses: [new OA\Response(response: 200, description: 'Pairs, correlation, a word for it, dots')],
        ),
    ]
    public function together(Request $request, Layer $layer): JsonResponse
    {
        $person = SignedIn::of($request);
        $fields = array_map(
            static fn (string $name): Field => self::field($request->query($name), $layer, $person),
            ['a', 'b'],
        );
        $visible = VisibleRecords::for($person, $layer);
        [$a, $b] = $fields;

        return new JsonResponse(TwoFields::of($visible->showing([$a->key, $b->key]), $a, $b));
    }

    /** @throws Refused */
    private static function field(mixed $key, Layer $layer, User $person): Field
    {
        $field = is_string($key) ? $layer->design()->field($key) : null;
        if ($field === null || ! Look::countsBy($field) || ! VisibleRecords::for($person, $layer)->shows($field->key)) {
            throw Refused::because('look_field', 'field', is_scalar($key) ? $key : null);
        }

        return $field;
    }

    private static function text(Request $request, string $name): ?string
    {
        $text = $request->json($name);

        return $text === null ? null : (is_string($text) ? $text : '');
    }
}
