<?php

declare(strict_types=1);

use App\Files\ExpiredUploads;
use App\Models\Attachment;
use App\Models\Upload;
use Illuminate\Support\Facades\Storage;
use PinYard\Record\RecordId;

// Source: tus resumable upload protocol 1.0.0: core, creation, checksum, termination, expiration.
beforeEach(function (): void {
    $this->field = $this->programme();
    $this->phone = $this->crew($this->field);
    $this->nests = $this->layer($this->field);
    $this->bytes = $this->jpeg();
    $this->announcing = function (string $bytes, array $change = []): array {
        $photo = $this->announce($bytes, $change);
        $outcome = $this->sync($this->phone, [$this->add($this->nests, ['photos' => [$photo]])])['outcomes'][0];
        expect($outcome['outcome'])->toBe('applied');

        return $photo;
    };
    $this->begin = fn (array $photo, ?int $length = null) => $this->actingAs($this->phone)->call(
        'POST',
        '/api/v1/uploads',
        server: $this->transformHeadersToServerVars([
            'Tus-Resumable' => '1.0.0',
            'Upload-Length' => (string) ($length ?? $photo['bytes']),
            'Upload-Metadata' => 'attachment '.base64_encode($photo['id']),
        ]),
    );
    $this->send = fn (string $to, int $offset, string $bytes, array $headers = []) => $this->actingAs(
        $this->phone,
    )->call(
        'PATCH',
        $to,
        server: $this->transformHeadersToServerVars([
            'Tus-Resumable' => '1.0.0',
            'Content-Type' => 'application/offset+octet-stream',
            'Upload-Offset' => (string) $offset,
            ...$headers,
        ]),
        content: $bytes,
    );
    $this->photo = fn (array $photo): Attachment => Attachment::query()
        ->findOrFail(RecordId::of($photo['id'])->bytes());
});

it('says what it can', function (): void {
    $this->actingAs($this->phone)
        ->call('OPTIONS', '/api/v1/uploads')
        ->assertNoContent()
        ->assertHeader('Tus-Resumable', '1.0.0')
        ->assertHeader('Tus-Version', '1.0.0')
        ->assertHeader('Tus-Extension', 'creation,checksum,termination,expiration');
});

it('goes on from where it was cut, and keeps the very bytes', function (): void {
    $photo = ($this->announcing)($this->bytes);
    $to = ($this->begin)($photo)->assertCreated()->assertHeader('Upload-Expires')->headers->get('Location');
    $half = intdiv(strlen($this->bytes), 2);
    ($this->send)($to, 0, substr($this->bytes, 0, $half))
        ->assertNoContent()
        ->assertHeader('Upload-Offset', (string) $half);
    expect(($this->photo)($photo)->state)->toBe('on_way');
    $this->call('HEAD', $to)
        ->assertOk()
        ->assertHeader('Upload-Offset', (string) $half)
        ->assertHeader('Upload-Length', (string) strlen($this->bytes))
        ->assertHeader('Cache-Control', 'no-store, private');
    ($this->send)($to, 0, $this->bytes)->assertStatus(409);
    ($this->send)($to, $half, substr($this->bytes, $half))->assertNoContent();
    $stored = ($this->photo)($photo);
    expect($stored->state)
        ->toBe('stored')
        ->and(hash('sha256', (string) Storage::disk('attachments')->get($stored->path())))
        ->toBe($photo['sha256']);
    ($this->begin)($photo)->assertStatus(410)->assertHeader('Photo-State', 'stored');
});

it(
    'decides over an upload whose process died after the last byte, before it says that all is there',
    function (): void {
        $photo = ($this->announcing)($this->bytes);
        $to = ($this->begin)($photo)->headers->get('Location');
        file_put_contents(Upload::query()->findOrFail(basename($to))->file(), $this->bytes);
        expect(($this->photo)($photo)->state)->toBe('on_way');
        $this->call('HEAD', $to)->assertOk()->assertHeader('Upload-Offset', (string) strlen($this->bytes));
        expect(($this->photo)($photo)->state)->toBe('stored');
    },
);

it('tells phones of a photo that has arrived', function (): void {
    $photo = ($this->announcing)($this->bytes);
    $news = fn (int $since): array => $this->sync($this->phone, [], [$this->nests->id => $since])['news'][
        $this->nests->id
    ];
    $before = $news(0);
    expect($before['records'][0]['photos'][0]['state'])
        ->toBe('on_way')
        ->and($news($before['cursor'])['records'])
        ->toBe([]);
    $to = ($this->begin)($photo)->headers->get('Location');
    ($this->send)($to, 0, $this->bytes);
    expect($news($before['cursor'])['records'][0]['photos'][0]['state'])->toBe('stored');
});

it('checks a checksum that comes with a piece, and takes nothing of a wrong one', function (): void {
    $photo = ($this->announcing)($this->bytes);
    $to = ($this->begin)($photo)->headers->get('Location');
    $piece = substr($this->bytes, 0, 1000);
    ($this->send)($to, 0, $piece, ['Upload-Checksum' => 'sha1 '.base64_encode(sha1('other', true))])->assertStatus(
        460,
    );
    $this->call('HEAD', $to)->assertHeader('Upload-Offset', '0');
    ($this->send)($to, 0, $piece, ['Upload-Checksum' => 'md5 x'])->assertStatus(400);
    ($this->send)($to, 0, $piece, ['Upload-Checksum' => 'sha1 '.base64_encode(sha1($piece, true))])
        ->assertNoContent()
        ->assertHeader('Upload-Offset', '1000');
});

it('refuses what is not as announced', function (): void {
    $photo = ($this->announcing)($this->bytes);
    ($this->begin)($photo, 999)->assertStatus(422);
    ($this->begin)($photo, 40 * 1_048_576)->assertStatus(422);
    ($this->begin)($photo, 600 * 1_048_576)->assertStatus(413);
    ($this->begin)(['id' => RecordId::make()->text, 'bytes' => 5])->assertNotFound();
    ($this->begin)(['id' => 'nonsense', 'bytes' => 5])->assertNotFound();
    $to = ($this->begin)($photo)->headers->get('Location');
    ($this->send)($to, 0, $this->bytes.'more')->assertStatus(413);
    ($this->send)($to, 0, $this->bytes, ['Content-Type' => 'image/jpeg'])->assertStatus(415);
    ($this->send)($to, 0, strrev($this->bytes))
        ->assertStatus(422)
        ->assertJsonPath('problems.0.code', 'photo_sha_differs');
    expect(($this->photo)($photo)->state)->toBe('on_way');
});

it('refuses a file that is no picture, whatever it calls itself', function (string $bytes, array $change): void {
    $photo = ($this->announcing)($bytes, $change);
    $to = ($this->begin)($photo)->headers->get('Location');
    ($this->send)($to, 0, $bytes)
        ->assertStatus(422)
        ->assertJsonPath('problems.0.code', 'photo_no_picture')
        ->assertJsonPath('problems.0.value', 'nest.jpg');
    expect(($this->photo)($photo))->state->toBe('refused')->reason->toBe('photo_no_picture');
    $this->actingAs($this->phone)
        ->getJson("/api/v1/attachments/{$photo['id']}/original")
        ->assertNotFound();
})->with([
    'a page' => ['<html><script>alert(1)</script></html>', []],
    'a program' => ["<?php system(\$_GET['c']);", []],
    'the head of a JPEG and nothing behind it' => ["\xFF\xD8\xFF\xE0nothing", []],
    'a JPEG that says it is a PNG' => [fn () => $this->jpeg(), ['type' => 'image/png']],
]);

it('can be given up, and is forgotten when it is not gone on with', function (): void {
    $photo = ($this->announcing)($this->bytes);
    $to = ($this->begin)($photo)->headers->get('Location');
    $this->call('DELETE', $to)->assertNoContent();
    $this->call('HEAD', $to)->assertNotFound();

    $to = ($this->begin)($photo)->headers->get('Location');
    $upload = Upload::query()->findOrFail(basename($to));
    ExpiredUploads::forget();
    expect(is_file($upload->file()))->toBeTrue();
    $upload->update(['expires_at' => now()->subMinute()]);
    ExpiredUploads::forget();
    expect(is_file($upload->file()))
        ->toBeFalse()
        ->and(Upload::query()->find($upload->id))
        ->toBeNull();
    ($this->begin)($photo)->assertCreated();
});
