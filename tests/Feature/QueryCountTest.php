<?php

declare(strict_types=1);

use App\Models\Board;
use App\Models\Map;
use Illuminate\Support\Facades\DB;

/*
 * What is asked often asks the database little, however many layers, records and programmes there are: a question for
 * each
 * thing of a list (N+1) shows here at once. Counts are without the session's own.
 */
beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->grow = function (int $layers): array {
        $programme = $this->programme($this->mara);
        for ($i = 0; $i < $layers; $i++) {
            $layer = $this->layer($programme, ['title' => "Nests $i"]);
            $operations = array_map(fn (): array => $this->add($layer), range(1, $layers * 3));
            $this->sync($this->mara, $operations);
        }
        $this->actingAs($this->mara);
        $tile = [
            'id' => 'a', 'kind' => 'number', 'title' => 'A', 'layer' => $layer->id, 'slice' => null, 'field' => null,
            'width' => 3, 'height' => 2,
        ];
        $board = $this->postJson("/api/v1/programmes/$programme->id/boards", [
            'title' => 'B', 'audience' => 'link', 'tiles' => [$tile],
        ])->json('id');
        $map = $this->postJson("/api/v1/programmes/$programme->id/maps", [
            'title' => 'M', 'audience' => 'link', 'layer' => $layer->id,
        ])->json('id');

        return [
            'programme' => $programme->id,
            'layer' => $layer->id,
            'board' => $board,
            'boardlink' => Board::query()->findOrFail($board)->link_token,
            'maplink' => Map::query()->findOrFail($map)->link_token,
            'record' => $operations[0]['record'],
        ];
    };
    // Each is asked twice: what is kept after the first time is what screens meet.
    $this->counted = function (string $path, array $yard): int {
        $address = preg_replace_callback('/\{(\w+)\}/', fn (array $m): string => (string) $yard[$m[1]], $path);
        $this->getJson($address)->assertOk();
        $queries = 0;
        $count = true;
        DB::listen(function ($query) use (&$queries, &$count): void {
            $queries += $count && ! str_contains($query->sql, '`sessions`') ? 1 : 0;
        });
        $this->getJson($address)->assertOk();
        $count = false;

        return $queries;
    };
});

it('asks the database no more for many than for few, and little at all', function (string $path, int $most): void {
    $few = ($this->counted)($path, ($this->grow)(2));
    $many = ($this->counted)($path, ($this->grow)(6));
    // Programmes of the smaller yard are there as well when packs are asked for: a pack of one takes about a dozen.
    expect($many)->toBeLessThanOrEqual($few + (in_array($path, ['/api/v1/packs'], true) ? 14 : 0))
        ->and($many)->toBeLessThanOrEqual($most);
})->with([
    ['/api/v1/me', 3],
    ['/api/v1/programmes', 6],
    ['/api/v1/programmes/{programme}', 20],
    ['/api/v1/programmes/{programme}/layers', 4],
    ['/api/v1/layers/{layer}', 6],
    // Two for what speaks against records that wait.
    ['/api/v1/layers/{layer}/records', 10],
    ['/api/v1/layers/{layer}/records/{record}', 8],
    ['/api/v1/boards/{board}/answers', 3],
    ['/api/v1/open/boards/{boardlink}', 3],
    // One more than for those who have the answer: they hear so after a single one.
    ['/api/v1/open/maps/{maplink}', 4],
    // Six of them for what is shown to whom, and whether those see its layers.
    ['/api/v1/programmes/{programme}/ready', 18],
    ['/api/v1/packs', 32],
]);

it('answers a round in which nothing has changed with at most eight queries', function (): void {
    $yard = ($this->grow)(6);
    $layers = App\Models\Layer::query()->where('programme_id', $yard['programme'])->get();
    $cursors = $layers->pluck('change_number', 'id')->all();
    $this->sync($this->mara, [], $cursors);
    $queries = 0;
    DB::listen(function ($query) use (&$queries): void {
        $queries += str_contains($query->sql, '`sessions`') ? 0 : 1;
    });
    $this->sync($this->mara, [], $cursors);
    expect($queries)->toBeLessThanOrEqual(8);
});
