<?php

declare(strict_types=1);

use App\Models\Audience;
use App\Models\Layer;
use Illuminate\Http\UploadedFile;

/*
 * Marks of one's own: brought at the desk, used by looks and choices, seen wherever the map is seen, carried by
 * phones.
 */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person('Desk'));
    $this->svg =
        '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><path d="M2 2L22 12 2 22Z" onclick="x()"/></svg>';
    $this->give = fn (string $bytes, string $name = 'turtle.svg') => $this->actingAs($this->desk)->post(
        "/api/v1/programmes/{$this->programme_->id}/marks",
        ['file' => UploadedFile::fake()->createWithContent($name, $bytes)],
        ['Accept' => 'application/json'],
    );
});

it('takes a picture once, and shows it to whoever has its address, harmless', function (): void {
    $mark = ($this->give)($this->svg)->assertCreated()->json();
    expect($mark['name'])
        ->toBe('turtle')
        ->and($mark['head'])
        ->toMatch('/^own-[a-z0-9]{22}$/')
        ->and(($this->give)($this->svg, 'again.svg')->json('head'))
        ->toBe($mark['head'])
        ->and($this->getJson("/api/v1/programmes/{$this->programme_->id}/marks")->json())
        ->toBe([$mark]);
    app('auth')->forgetGuards();
    $shown = $this->get($mark['address'])->assertOk();
    expect($shown->headers->get('Content-Type'))
        ->toBe('image/svg+xml')
        ->and($shown->headers->get('Content-Security-Policy'))
        ->toContain("default-src 'none'")
        ->and($shown->headers->get('X-Content-Type-Options'))
        ->toBe('nosniff')
        ->and($shown->getContent())
        ->toContain('M2 2L22 12 2 22Z')
        ->not->toContain('onclick')
        ->and($shown->headers->getCookies())
        ->toBe([]);
    $this->getJson('/api/v1/open/marks/'.str_repeat('a', 22))->assertNotFound();
});

it('draws a PNG anew, small', function (): void {
    $image = imagecreatetruecolor(400, 200);
    ob_start();
    imagepng($image);
    $mark = ($this->give)((string) ob_get_clean(), 'wide.png')->assertCreated()->json();
    $size = getimagesizefromstring($this->get($mark['address'])->getContent());
    expect([$size[0], $size[1], $size['mime']])->toBe([96, 48, 'image/png']);
});

it('refuses what is no mark, with the way out', function (string $bytes, string $code): void {
    ($this->give)($bytes)->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
})->with([
    ['text', 'mark_unreadable'],
    ['<svg xmlns="http://www.w3.org/2000/svg"><text>A</text></svg>', 'mark_empty'],
    [str_repeat('x', 300_000), 'mark_large'],
]);

it('is used by choices and looks, on shared maps and in packs', function (): void {
    $mark = ($this->give)($this->svg)->json();
    $layer = $this->layer($this->programme_, [
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true],
            [
                'key' => 'kind',
                'label' => 'Kind',
                'kind' => 'one_choice',
                'choices' => [
                    ['code' => 'A', 'label' => 'A', 'colour' => '#0F5C53', 'mark' => $mark['head']],
                    ['code' => 'B', 'label' => 'B'],
                ],
            ],
        ],
    ]);
    $map = $this->mapOf($layer, [
        'look' => ['kind' => 'single', 'peg' => ['head' => $mark['head'], 'colour' => '#C8420E']],
        'card' => ['fields' => [], 'photos' => false],
    ], Audience::Link);
    expect(
        json_encode(
            $this->getJson("/api/v1/open/maps/{$map->link_token}")
                ->assertOk()
                ->json(),
        ),
    )->toContain("peg-{$mark['head']}-C8420E");
    $crew = $this->crew($this->programme_);
    $pack = collect($this->actingAs($crew)->getJson('/api/v1/packs')->json())->firstWhere(
        'programme',
        $this->programme_->id,
    );
    expect(array_keys($pack['marks']))
        ->toBe([$mark['head']])
        ->and(base64_decode(explode(',', $pack['marks'][$mark['head']])[1]))
        ->toContain('<path')
        ->and(Layer::query()->find($layer->id)->design()->field('kind')->choice('A')->mark)
        ->toBe($mark['head']);
    $this->actingAs($this->desk)
        ->patchJson("/api/v1/maps/{$map->id}", [
            'layers' => [
                ['look' => ['kind' => 'single', 'peg' => ['head' => 'own-evil', 'colour' => '#C8420E']]] +
                $map->layers[0],
            ],
        ])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'peg_head');
});
