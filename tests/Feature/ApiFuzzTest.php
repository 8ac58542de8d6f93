<?php

declare(strict_types=1);

use App\Models\Audience;
use App\OpenApi\Description;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;
use Random\Engine\Mt19937;
use Random\Randomizer;

/*
 * Requests that nobody means well with, made from the API's own description by a seeded die: ids that are none, values
 * that no JSON
 * can hold, lists where texts belong, numbers beyond all numbers. Whatever they are answered with, it is never a fault.
 */
final class Mutator
{
    /** A word here stands in the body as it is, outside quotes. */
    private const RAW = ['1e400', '-1e400', '12345678901234567890', '1e-400', '0.1e1', '-0'];

    private const JUNK = [null, true, false, 0, -1, 1.5, 1e308, 9007199254740993, '', ' ', 'x', '0', '-1', "\0",
        "\u{FEFF}", '🐢', "\u{202E}abc", [], [[]], [null], ['a' => 1], ['0' => 'x'], ['id' => ['id' => []]],
        '2026-02-30', '9999-99-99T99:99:99Z', 'null', '%ff', "' or 1=1 --", '../../etc/passwd', '{{7*7}}', '=1+1'];

    private const PATHS = ['0', '-1', '1e400', '%ff', '%C3%28', '99999999999999999999', '1.5', 'null', 'x', '%00',
        '..%2f..', '1%20', '٣', '🐢', '0x1'];

    public function __construct(private readonly Randomizer $dice)
    {
    }

    public function chance(int $of): bool
    {
        return $this->dice->getInt(1, $of) === 1;
    }

    public function pick(array $of): mixed
    {
        return $of === [] ? null : array_values($of)[$this->dice->getInt(0, count($of) - 1)];
    }

    public function path(): string
    {
        return $this->pick(self::PATHS);
    }

    public function query(): string
    {
        return $this->pick(['=1', '[]=1', '[a][b]=1', '=%ff', '=1e400', '=-1', '=99999999999999999999', '=', '=%00',
            '='.rawurlencode('{"all":[{"field":"x"}]}'), '='.rawurlencode('[[[[[[]]]]]]'), '=true', '=NaN']);
    }

    public function value(): mixed
    {
        return match ($this->dice->getInt(1, 12)) {
            1 => '@@'.$this->pick(self::RAW).'@@',
            2 => str_repeat($this->pick(['x', '9', '🐢', '[']), 3_000),
            3 => array_fill(0, 30, $this->pick(self::JUNK)),
            default => $this->pick(self::JUNK),
        };
    }

    /** A sound body with something in it bent. */
    public function bend(mixed $body, int $depth = 0): mixed
    {
        if (! is_array($body) || $body === [] || $depth > 4 || $this->chance(4)) {
            return $this->value();
        }
        $key = $this->pick(array_keys($body));
        if ($this->chance(6)) {
            unset($body[$key]);

            return $body;
        }
        if ($this->chance(6)) {
            $body[$this->pick(['x', 'id', '0', '🐢', 'layer', 'values'])] = $this->value();
        }
        $body[$key] = $this->chance(2) ? $this->value() : $this->bend($body[$key], $depth + 1);

        return $body;
    }

    public static function json(mixed $body): string
    {
        return (string) preg_replace('/"@@([^"]*)@@"/', '$1',
            (string) json_encode($body, JSON_INVALID_UTF8_SUBSTITUTE));
    }
}

/** What a body looks like, from its description. */
function exampleOf(array $schema, array $description, int $depth = 0): mixed
{
    if (isset($schema['$ref'])) {
        $schema = $description['components']['schemas'][basename($schema['$ref'])] ?? [];
    }
    if ($depth > 4) {
        return null;
    }

    return match (is_array($schema['type'] ?? null) ? $schema['type'][0]
        : ($schema['type'] ?? (isset($schema['properties']) ? 'object' : 'string'))) {
        'object' => array_map(static fn (array $p): mixed => exampleOf($p, $description, $depth + 1),
            $schema['properties'] ?? ['field' => ['type' => 'string']]),
        'array' => [exampleOf($schema['items'] ?? [], $description, $depth + 1)],
        'integer', 'number' => 1,
        'boolean' => true,
        default => $schema['enum'][0] ?? $schema['example'] ?? 'text',
    };
}

it('answers ten thousand bent requests without a fault', function (int $seed): void {
    $dice = new Mutator(new Randomizer(new Mt19937($seed)));
    $coordinator = $this->person();
    $programme = $this->programme($coordinator);
    $layer = $this->layer($programme);
    $this->sync($coordinator, [$operation = $this
        ->add($layer, ['photos' => [$photo = $this->announce($this->jpeg())]])]);
    $map = $this->mapOf($layer, ['card' => ['fields' => ['code'], 'photos' => true]], Audience::Link);
    $board = $programme->boards()->make(['title' => 'B', 'tiles' => App\Boards\BoardDraft::tiles($programme, $this->person())]);
    $board->openTo(Audience::Link);
    $import = App\Models\Import::query()
        ->create([
            'programme_id' => $programme->id, 'user_id' => $coordinator->id, 'state' => 'done',
            'files' => [['name' => 'a.csv', 'bytes' => 4]], 'settings' => ['title' => 'T'], 'counts' => [],
        ]);
    $description = json_decode(Description::make(), true);
    $sound = [
        'programme' => $programme->id, 'layer' => $layer->id, 'record' => $operation['record'],
        'attachment' => $photo['id'], 'size' => 'thumb', 'map' => $map->id, 'board' => $board->id,
        'import' => $import->id,
        'member' => $programme->memberFor($this->crew($programme))->id, 'file' => 0, 'row' => 2,
        'list' => $this->choiceList($programme)->id, 'fill' => 1, 'outing' => 1,
        'shelf' => App\Models\Shelf::query()->create(['programme_id' => $programme->id, 'name' => 'S'])->id,
        'group' => $programme->groups()->create(['name' => 'G', 'may_change' => true, 'members_seen' => true])->id,
        'upload' => (string) Illuminate\Support\Str::uuid7(), 'dispute' => 1, 'asked' => 1, 'export' => 1, 'mark' => 'x',
        'device' => 'x', 'token' => $map->link_token, 'part' => $map->layers[0]['id'],
    ];
    $bodies = [];
    foreach ($description['paths'] as $uri => $operations) {
        foreach ($operations as $method => $about) {
            $schema = $about['requestBody']['content']['application/json']['schema'] ?? ['type' => 'object'];
            $bodies[strtoupper($method)." $uri"] = [
                exampleOf($schema, $description),
                array_column($about['parameters'] ?? [], 'name'),
            ];
        }
    }
    $bodies['POST /api/v1/sync'] = [['device' => RecordId::make()->text, 'operations' => [$this->add($layer)],
        'cursors' => [$layer->id => 0], 'sent_at' => now()->toIso8601ZuluString(),
        'areas' => [$layer->id => [-12, -15, -11, -14]], 'filling' => [$layer->id],
        'answers' => [['ask' => 1, 'text' => 'x', 'at' => now()->toIso8601ZuluString()]], 'waiting' => 1], []];
    $bodies['PUT /api/v1/layers/{layer}/design'] = [['base' => 1, 'design' => $layer->design()->toArray()], []];
    $bodies['POST /api/v1/designs/check'] = [$layer->design()->toArray(), []];
    $bodies['POST /api/v1/programmes/{programme}/layers'] = [['design' => $layer->design()->toArray()], []];
    // What ends the session, or waits for a person, is asked once in a while elsewhere.
    $names = array_values(array_filter(array_keys($bodies), static fn (string $n): bool => ! in_array($n, ['DELETE '
        .'/api/v1/session', 'GET /health', 'DELETE '
            .'/api/v1/programmes/{programme}/people/{member}', 'GET /api/v1/openapi.json'], true)));
    $faults = [];
    $this->withoutMiddleware(Illuminate\Routing\Middleware\ThrottleRequests::class);
    $this->actingAs($coordinator);
    for ($i = 0; $i < 2_500; $i++) {
        $name = $dice->pick($names);
        [$method, $uri] = explode(' ', $name, 2);
        [$body, $parameters] = $bodies[$name];
        $address = preg_replace_callback('/\{(\w+)\}/', static fn (array $m): string => $dice->chance(8) ? $dice
            ->path() : (string) ($sound[$m[1]] ?? 'x'), $uri);
        $queries = array_filter(array_map(static fn (string $p): ?string => $dice->chance(2) ? $p.$dice->query()
            : null, [...array_diff($parameters, array_keys($sound)),
                ...($dice->chance(6) ? ['bbox', 'filter', 'page', 'q', 'record', 'since'] : [])]));
        $address .= $queries === [] ? '' : '?'.implode('&', $queries);
        $text = in_array($method, ['GET', 'HEAD'], true) ? null
            : ($dice->chance(25) ? $dice->pick(['', '{', '[]', 'null', "\xff\xfe", '{"a":"\ud800"}',
                str_repeat('[', 5_000), '"text"', '1e400', '{"a":1e999}'])
                    : Mutator::json($dice->chance(8) ? $body : $dice->bend($body)));
        $response = $this->call($method, $address, [], [], [],
            ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json', 'HTTP_UPLOAD_OFFSET' => '0',
                'HTTP_UPLOAD_LENGTH' => '5', 'HTTP_TUS_RESUMABLE' => '1.0.0'], $text);
        if ($response->getStatusCode() >= 500 && $response->getStatusCode() !== 503) {
            $faults["$name: ".($response->exception === null ? $response->getStatusCode() : $response
                ->exception::class.' '.mb_substr($response->exception->getMessage(), 0, 160).' '.basename($response
                ->exception->getFile()).':'.$response->exception
                ->getLine())] ??= "$address ".mb_substr((string) $text, 0, 300);
        }
        while (DB::transactionLevel() > 0) {
            DB::rollBack();
        }
    }
    expect($faults)->toBe([], "seed $seed");
})->with(array_map(intval(...), explode(',', (string) (getenv('FUZZ_SEEDS') ?: '1,2,3,4'))));
