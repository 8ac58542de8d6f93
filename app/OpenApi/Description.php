<?php

declare(strict_types=1);

namespace App\OpenApi;

use Illuminate\Support\Facades\Cache;
use OpenApi\Attributes as OA;
use OpenApi\Generator;

/** The OpenAPI description, made from the attributes at the controllers. What every route shares is added here. */
#[
    OA\Info(
        version: '1',
        title: 'Pin Yard',
        description: 'Everything that the screens do. Sign in with POST /api/v1/session; the session is a cookie, '
            .'and the cookie XSRF-TOKEN goes back in the header X-XSRF-TOKEN. Failures are problem details (RFC '
                .'9457) with a list of problems, each with code, field, value and a sentence.',
    ),
]
#[
    OA\Components(
        parameters: [
            new OA\Parameter(
                parameter: 'bbox',
                name: 'bbox',
                in: 'query',
                description: 'west,south,east,north in degrees',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'map_search',
                name: 'search',
                in: 'query',
                description: 'a search of the map: of its layer only the records that it finds',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'wall_part',
                name: 'part',
                in: 'query',
                description: 'of one layer of the map alone',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'wall_after',
                name: 'after',
                in: 'query',
                description: 'a photo: those behind it',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'wall_before',
                name: 'before',
                in: 'query',
                description: 'a photo: those up to it',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'wall_from',
                name: 'from',
                in: 'query',
                description: 'a photo: it and those behind it',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'table_sort',
                name: 'sort',
                in: 'query',
                description: 'a column; without it the order that the makers chose',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'table_down',
                name: 'down',
                in: 'query',
                description: '1: the largest first',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'table_class',
                name: 'class',
                in: 'query',
                description: 'only of this class of the look; empty: of none',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'table_pick',
                name: 'pick',
                in: 'query',
                description: 'a record that is told wherever it stands',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'table_limit',
                name: 'limit',
                in: 'query',
                description: 'at most so many rows, 1 to 1000',
                schema: new OA\Schema(type: 'integer'),
            ),
            new OA\Parameter(
                parameter: 'filter',
                name: 'filter',
                in: 'query',
                description: 'a filter tree as JSON',
                schema: new OA\Schema(type: 'string'),
            ),
            new OA\Parameter(
                parameter: 'slice',
                name: 'slice',
                in: 'query',
                description: 'number of a slice of the layer',
                schema: new OA\Schema(type: 'integer'),
            ),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'Me',
        properties: [
            new OA\Property(property: 'id', type: 'integer'),
            new OA\Property(property: 'name', type: 'string'),
            new OA\Property(property: 'email', type: 'string'),
            new OA\Property(property: 'roles', type: 'array', items: new OA\Items(type: 'object')),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'ProgrammeInput',
        properties: [
            new OA\Property(property: 'name', type: 'string'),
            new OA\Property(property: 'purpose', type: 'string'),
            new OA\Property(property: 'time_zone', type: 'string', example: 'Atlantic/Azores'),
            new OA\Property(
                property: 'area',
                description: 'west, south, east, north',
                type: 'array',
                items: new OA\Items(type: 'number'),
            ),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'LayerDesign',
        type: 'object',
        externalDocs: new OA\ExternalDocumentation(description: 'The JSON Schema', url: '/schemas/layer-design.json'),
    ),
]
#[
    OA\Schema(
        schema: 'Filter',
        description: '`{all: […]}`, `{any: […]}` or `{none: […]}` of conditions `{field, test, value}` and filters; '
            .'with `of: "visit"` a condition is about the latest visit. GET /layers/{layer}/askable tells fields and '
            .'tests.',
        type: 'object',
    ),
]
#[
    OA\Schema(
        schema: 'SliceInput',
        required: ['filter'],
        properties: [
            new OA\Property(property: 'name', type: 'string', nullable: true),
            new OA\Property(property: 'filter', ref: '#/components/schemas/Filter'),
            new OA\Property(
                property: 'was',
                description: 'of one that is changed: name and filter as they were seen; with others nothing is saved',
                type: 'object',
                nullable: true,
            ),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'FillInput',
        required: ['field', 'formula'],
        properties: [
            new OA\Property(property: 'field', type: 'string'),
            new OA\Property(property: 'formula', type: 'string'),
            new OA\Property(property: 'slice', type: 'integer', nullable: true),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'MapInput',
        properties: [
            new OA\Property(
                property: 'new_link',
                description: 'withdraws the address for good; there is a new one',
                type: 'boolean',
            ),
            new OA\Property(
                property: 'layer',
                description: 'of a new map: the one layer that it begins with',
                type: 'integer',
            ),
            new OA\Property(property: 'look', description: 'of a new map of one layer', type: 'object'),
            new OA\Property(property: 'card', description: 'of a new map of one layer', type: 'object'),
            new OA\Property(property: 'title', type: 'string'),
            new OA\Property(property: 'about', description: 'what visitors read of it', type: 'string'),
            new OA\Property(property: 'audience', type: 'string', enum: ['me', 'some', 'programme', 'link']),
            new OA\Property(
                property: 'shown_to',
                description: 'of audience `some`: crews, makers, guests, crew-<number>, group-<number>',
                type: 'array',
                items: new OA\Items(type: 'string'),
            ),
            new OA\Property(
                property: 'layers',
                description: 'the topmost first, at most 40: id, layer, title, look, card (fields, photos), label '
                    .'(parts, size, zoom), slice, opacity (0.1 to 1), zoom (from, to), visible, in_legend',
                type: 'array',
                items: new OA\Items(type: 'object'),
            ),
            new OA\Property(property: 'extent', type: 'array', items: new OA\Items(type: 'number')),
            new OA\Property(
                property: 'beside',
                description: 'the table beside it: part, columns, sort, down, all, chart; null: none',
                type: 'object',
                nullable: true,
            ),
            new OA\Property(
                property: 'viewpoints',
                description: 'saved places: id, title, extent',
                type: 'array',
                items: new OA\Items(type: 'object'),
            ),
            new OA\Property(
                property: 'searches',
                description: 'what whoever looks at the map can ask: id, title, part, number of a slice of its layer',
                type: 'array',
                items: new OA\Items(type: 'object'),
            ),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'GateInput',
        properties: [
            new OA\Property(
                property: 'new_link',
                description: 'withdraws the address for good; there is a new one',
                type: 'boolean',
            ),
            new OA\Property(property: 'title', type: 'string'),
            new OA\Property(property: 'about', type: 'string'),
            new OA\Property(property: 'colour', type: 'string', example: '#0F5C53'),
            new OA\Property(
                property: 'hung',
                description: 'what the gallery holds, in order: kind (map or board), id',
                type: 'array',
                items: new OA\Items(type: 'object'),
            ),
            new OA\Property(property: 'open', type: 'boolean'),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'BoardInput',
        properties: [
            new OA\Property(
                property: 'new_link',
                description: 'withdraws the address for good; there is a new one',
                type: 'boolean',
            ),
            new OA\Property(property: 'title', type: 'string'),
            new OA\Property(property: 'audience', type: 'string', enum: ['me', 'some', 'programme', 'link']),
            new OA\Property(
                property: 'shown_to',
                description: 'of audience `some`: crews, makers, guests, crew-<number>, group-<number>',
                type: 'array',
                items: new OA\Items(type: 'string'),
            ),
            new OA\Property(property: 'tiles', type: 'array', items: new OA\Items(type: 'object')),
            new OA\Property(property: 'pages', type: 'array', items: new OA\Items(type: 'string')),
            new OA\Property(property: 'visitors_pick', type: 'boolean'),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'GroupInput',
        properties: [
            new OA\Property(property: 'name', type: 'string', maxLength: 80),
            new OA\Property(
                property: 'may_change',
                description: 'Its members may do what designs let crews do, or the group of this name',
                type: 'boolean',
            ),
            new OA\Property(property: 'members_seen', type: 'boolean'),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'AudienceRuleInput',
        required: ['rule'],
        properties: [
            new OA\Property(
                property: 'rule',
                description: 'rows (all, slice, own or none), slice (number), place (exact, cell, area or none), '
                    .'metres (of a cell’s sides at least), areas (number of their layer), fields (keys; null: all), '
                    .'photos. Null: what goes without saying',
                type: 'object',
                nullable: true,
            ),
            new OA\Property(
                property: 'was',
                description: 'The rule that it was made from: where it is another by now, it is refused',
                type: 'object',
                nullable: true,
            ),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'AlertInput',
        required: ['name', 'rule'],
        properties: [
            new OA\Property(property: 'name', type: 'string', maxLength: 120),
            new OA\Property(
                property: 'rule',
                description: 'kind (slice, measure or silence) and what it needs: layer, slice; layer, slice, measure, '
                    .'passes (above or below), value; crew, hours, on_outings',
                type: 'object',
            ),
            new OA\Property(property: 'to', description: 'coordinators, crews (numbers)', type: 'object'),
            new OA\Property(property: 'by_mail', type: 'boolean'),
            new OA\Property(property: 'on_phones', type: 'boolean'),
            new OA\Property(
                property: 'rest',
                description: 'minutes between two tellings; from and until: times of the day when it keeps quiet',
                type: 'object',
            ),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'Outing',
        required: ['title', 'from', 'to', 'layers'],
        properties: [
            new OA\Property(property: 'title', type: 'string'),
            new OA\Property(property: 'note', type: 'string'),
            new OA\Property(property: 'crew', type: 'integer', nullable: true),
            new OA\Property(property: 'from', type: 'string', format: 'date'),
            new OA\Property(property: 'to', type: 'string', format: 'date'),
            new OA\Property(
                property: 'area',
                description: 'west, south, east, north; without it the whole programme',
                type: 'array',
                nullable: true,
                items: new OA\Items(type: 'number'),
            ),
            new OA\Property(property: 'layers', type: 'array', items: new OA\Items(type: 'integer')),
            new OA\Property(property: 'target', type: 'string', enum: ['none', 'records', 'visits']),
            new OA\Property(property: 'count', description: 'records wanted', type: 'integer', nullable: true),
            new OA\Property(property: 'checklist', type: 'array', items: new OA\Items(type: 'string')),
        ],
    ),
]
#[
    OA\Schema(
        schema: 'SyncRound',
        required: ['device', 'operations', 'cursors'],
        properties: [
            new OA\Property(property: 'device', type: 'string', format: 'uuid'),
            new OA\Property(property: 'waiting', description: 'records still in the outbox', type: 'integer'),
            new OA\Property(property: 'operations', type: 'array', items: new OA\Items(type: 'object')),
            new OA\Property(
                property: 'cursors',
                description: 'change number that the phone has, by layer',
                type: 'object',
            ),
            new OA\Property(
                property: 'answers',
                description: 'to what the desk asked: ask, text, at',
                type: 'array',
                items: new OA\Items(type: 'object'),
            ),
            new OA\Property(
                property: 'read_notices',
                description: 'what alerts have told and was read on the phone',
                type: 'array',
                items: new OA\Items(type: 'integer'),
            ),
            new OA\Property(
                property: 'areas',
                description: 'what the phone wants of a layer, by layer: west, south, east, north',
                type: 'object',
            ),
            new OA\Property(
                property: 'filling',
                description: 'layers of which the phone has nothing yet',
                type: 'array',
                items: new OA\Items(type: 'integer'),
            ),
        ],
    ),
]
final class Description
{
    public static function json(): string
    {
        $parts = [__FILE__, __DIR__.'/AnswerShapes.php', __DIR__.'/answers.yaml'];
        $made = implode('-', array_map(filemtime(...), $parts));

        return Cache::rememberForever('openapi:'.config('app.version').":$made", self::make(...));
    }

    public static function make(): string
    {
        // zircote/swagger-php reports through a logger; a warning there is a fault of ours and fails the test.
        $openApi = Generator::scan([app_path()], ['logger' => app('log')->channel('single'), 'version' => '3.1.0']);
        $api = json_decode($openApi?->toJson() ?? '{}', true, flags: JSON_THROW_ON_ERROR);
        $shapes = AnswerShapes::read();
        $api['components']['schemas'] = $shapes->schemas + $api['components']['schemas'];
        foreach ($api['paths'] ?? [] as $path => $operations) {
            preg_match_all('/\{(\w+)\}/', $path, $names);
            foreach ($operations as $method => $operation) {
                $operation['parameters'] = [
                    ...array_map(
                        static fn (string $name): array => [
                            'name' => $name,
                            'in' => 'path',
                            'required' => true,
                            'schema' => ['type' => 'string'],
                        ],
                        $names[1],
                    ),
                    ...$operation['parameters'] ?? [],
                ];
                $operation['responses'] = self::shaped(
                    $operation['responses'] ?? [],
                    $shapes->answers[strtoupper($method)." $path"] ?? 'nothing',
                );
                $operation['responses']['default'] ??= [
                    'description' => 'Problem details (RFC 9457)',
                    'content' => [
                        'application/problem+json' => ['schema' => ['$ref' => '#/components/schemas/Failure']],
                    ],
                ];
                $api['paths'][$path][$method] = $operation;
            }
        }

        return (string) json_encode(
            self::objects($api),
            JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR,
        );
    }

    /**
     * @param  array<int|string, array<string, mixed>>  $responses  by status
     * @param  array<string, mixed>|string  $answer
     * @return array<int|string, array<string, mixed>> with the shape at each that says that it went well
     */
    private static function shaped(array $responses, array|string $answer): array
    {
        foreach ($responses as $status => $response) {
            if (is_array($answer) && (int) $status >= 200 && (int) $status < 300) {
                $responses[$status]['content'] = ['application/json' => ['schema' => $answer]];
            }
        }

        return $responses;
    }

    /** An empty schema is an object: PHP would write a list. */
    private static function objects(mixed $part): mixed
    {
        if (! is_array($part)) {
            return $part;
        }
        $schemas = ['additionalProperties', 'items', 'schema'];
        foreach ($part as $key => $inner) {
            $part[$key] = $inner === [] && in_array($key, $schemas, true) ? (object) [] : self::objects($inner);
            if ($key === 'properties' && is_array($inner)) {
                $part[$key] = (object) array_map(
                    static fn (mixed $p): mixed => $p === [] ? (object) [] : self::objects($p),
                    $inner,
                );
            }
        }

        return $part;
    }
}
