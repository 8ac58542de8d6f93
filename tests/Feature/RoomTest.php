<?php

declare(strict_types=1);

use App\Import\IncomingFiles;
use App\Models\Import;
use App\Programmes\Usage;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use Illuminate\Support\Facades\Route;

uses(Tests\ImportSteps::class);

/* Room on the disk: how much a programme takes and may take, and what is said where there is none. */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person());
    $this->layer_ = $this->layer($this->programme_);
});

it('counts what a programme takes, and stops at its quota', function (): void {
    $photo = $this->announce($bytes = $this->jpeg());
    $this->sync($this->desk, [$this->add($this->layer_, ['photos' => [$photo]])]);
    $import = $this->bring($this->desk, $this->programme_, ['a.csv' => ($csv = "lat,lon,note\n-14.5,-11.5,x\n")]);
    $usage = $this->getJson("/api/v1/programmes/{$this->programme_->id}/storage")
        ->assertOk()
        ->json();
    expect($usage['files'])
        ->toBe(strlen($bytes))
        ->and($usage['brought'])
        ->toBeGreaterThanOrEqual(strlen($csv))
        ->and($usage['used'])
        ->toBe($usage['files'] + $usage['brought'] + $usage['taken_out']);
    config(['app.quota' => $usage['used'] + 10]);
    $start = fn () => $this->call(
        'POST',
        '/api/v1/uploads',
        server: [
            'HTTP_UPLOAD_LENGTH' => (string) strlen($bytes),
            'HTTP_UPLOAD_METADATA' => 'attachment '.base64_encode($photo['id']),
            'HTTP_TUS_RESUMABLE' => '1.0.0',
            'HTTP_ACCEPT' => 'application/json',
        ],
    );
    // The photo is not at fault: it waits where it is, and goes when there is room.
    $start()->assertStatus(507)->assertJsonPath('problems.0.code', 'quota_full');
    $this->postJson("/api/v1/programmes/{$this->programme_->id}/imports", [
        'files' => [['name' => 'b.csv', 'bytes' => 500]],
    ])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'quota_full');
    config(['app.quota' => 1_000_000_000]);
    $start()->assertCreated();
});

it('leaves nothing behind of a file that could not be read', function (): void {
    $import = $this->bring($this->desk, $this->programme_, [
        'a.zip' => $this->zip(['a.txt' => "\0\0\0", 'b.txt' => str_repeat('x', 5_000)]),
    ]);
    expect($import['state'])->toBe('failed');
    $found = Import::query()->findOrFail($import['id']);
    expect(is_dir($found->folder('unpacked')))->toBeFalse()->and(File::files($found->folder()))->toHaveCount(1);
    IncomingFiles::forget($found);
});

it('tells of a full or read-only disk in words, and in /health', function (): void {
    Route::get(
        'full',
        static fn () => throw new ErrorException(
            'fwrite(): Write of 8192 bytes failed with errno=28 No space left on device',
        ),
    );
    $this->getJson('/full')->assertStatus(507)->assertJsonPath('code', 'disk_full');
    $this->getJson('/health')->assertOk()->assertJsonPath('storage', true)->assertJsonPath('room', true);
    // Nobody may write where there is no folder.
    $before = storage_path();
    app()->useStoragePath('/proc/nowhere');
    $this->getJson('/health')->assertStatus(503)->assertJsonPath('storage', false);
    app()->useStoragePath($before);
    expect(Usage::free())->toBeGreaterThan(0)->and(DB::selectOne('select 1 as one')->one)->toBe(1);
});

it('ends an export as failed where it cannot be written', function (): void {
    $this->sync($this->desk, [$this->add($this->layer_)]);
    $before = storage_path();
    File::ensureDirectoryExists($to = sys_get_temp_dir().'/full-'.getmypid());
    // /dev/full takes nothing: writing to it fails as it does on a full disk.
    $this->actingAs($this->desk);
    app()->useStoragePath($to);
    File::ensureDirectoryExists("$to/exports");
    $next = (int) DB::table('exports')->max('id') + 1;
    symlink('/dev/full', "$to/exports/$next");
    DB::statement("alter table exports auto_increment = $next");
    try {
        $this->withoutExceptionHandling()->postJson("/api/v1/layers/{$this->layer_->id}/exports", ['format' => 'csv']);
    } catch (Throwable) {
    }
    app()->useStoragePath($before);
    File::deleteDirectory($to);
    expect(DB::table('exports')->where('layer_id', $this->layer_->id)->value('state'))->toBe('failed');
});
