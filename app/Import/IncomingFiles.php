<?php

declare(strict_types=1);

namespace App\Import;

use App\Files\FileArrival;
use App\Files\Pictures;
use App\Models\Import;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Programmes\Usage;
use Illuminate\Support\Facades\File;
use PinYard\Refused;

/** Files on their way in: announced with name and size, sent in pieces, read when all are here. */
final readonly class IncomingFiles
{
    private const MOST_FILES = 2_000;

    private const MOST_BYTES = 4_000_000_000;

    private const PIECE = 65_536;

    public function __construct(private Import $import)
    {
    }

    /** @throws Refused */
    public static function announce(Programme $programme, User $user, mixed $files, mixed $like, mixed $layer): Import
    {
        if (! is_array($files) || ! array_is_list($files) || $files === []) {
            throw Refused::because('intake_files', 'files');
        }
        if (count($files) > self::MOST_FILES) {
            throw Refused::because('too_many', 'files', count($files), [
                'count' => count($files),
                'most' => self::MOST_FILES,
            ]);
        }
        $kept = [];
        foreach ($files as $i => $file) {
            $name =
                is_array($file) && is_string($file['name'] ?? null)
                    ? mb_substr(mb_scrub(basename(str_replace('\\', '/', $file['name']))), 0, 200)
                    : '';
            $bytes = is_array($file) ? $file['bytes'] ?? null : null;
            if ($name === '' || ! is_int($bytes) || $bytes < 0) {
                throw Refused::because('intake_file', "files/$i");
            }
            for ($n = 2; in_array($name, array_column($kept, 'name'), true); $n++) {
                $name = "$n-$name";
            }
            $kept[] = ['name' => $name, 'bytes' => $bytes];
        }
        $total = array_sum(array_column($kept, 'bytes'));
        if ($total > self::MOST_BYTES) {
            throw Refused::because('intake_too_large', 'files', $total, [
                'most' => intdiv(self::MOST_BYTES, 1_000_000_000),
            ]);
        }
        if ($total === 0) {
            throw Refused::because('intake_empty', 'files');
        }
        // It is unpacked and turned into a table beside itself.
        Usage::allow($programme, 2 * $total);
        $before = is_int($like) ? Import::query()->where('programme_id', $programme->id)->find($like) : null;
        $into = is_int($layer) ? Layer::query()->where('programme_id', $programme->id)->find($layer) : null;
        $settings = $before?->settings;
        if (
            $before !== null &&
            $settings !== null &&
            $before->state === 'done' &&
            ($settings['mode'] ?? 'new') === 'new'
        ) {
            // The newer file goes where the older one went.
            $settings =
                [
                    'mode' => ($settings['key_column'] ?? null) === null ? 'append' : 'update',
                    'layer' => $before->layer_id,
                ] + $settings;
        }
        if ($into !== null) {
            $settings =
                ['mode' => 'append', 'layer' => $into->id, 'title' => $into->title, 'zone' => $programme->time_zone] +
                ($settings ?? ['columns' => [], 'location' => []]);
        }
        $import = Import::query()->create([
            'programme_id' => $programme->id,
            'user_id' => $user->id,
            'state' => 'sending',
            'files' => $kept,
            'settings' => $settings,
        ]);
        // Nothing of an earlier life of this number.
        File::deleteDirectory($import->folder());
        File::ensureDirectoryExists($import->folder(), 0o700);
        foreach (array_keys($kept) as $n) {
            touch($import->file($n));
        }

        return $import;
    }

    /**
     * @param  resource  $in
     * @return array{int, bool} where the file stands, and whether the bytes were taken
     */
    public function take(int $n, int $offset, $in): array
    {
        $length = $this->import->files[$n]['bytes'] ?? null;
        if ($length === null || $this->import->state !== 'sending' || ! is_file($this->import->file($n))) {
            throw Refused::because('intake_state', 'import', $this->import->state, ['state' => $this->import->state]);
        }
        $file = fopen($this->import->file($n), 'cb') ?: throw new \RuntimeException('the import has no folder');
        flock($file, LOCK_EX);
        clearstatcache();
        $here = (int) filesize($this->import->file($n));
        if ($here !== $offset) {
            return [$here, false];
        }
        fseek($file, $here);
        while (! feof($in)) {
            $piece = fread($in, self::PIECE);
            if ($piece === false || $piece === '') {
                break;
            }
            $here += strlen($piece);
            if ($here > $length) {
                ftruncate($file, $offset);
                throw Refused::because('intake_longer_than_said', 'file', $here, ['bytes' => $length]);
            }
            fwrite($file, $piece);
        }
        fclose($file);
        if ($here === $length && $this->whole()) {
            $this->import->update(['state' => 'reading']);
            $this->import->wantsStop(false);
            ReadImport::dispatch($this->import->id);
        }

        return [$here, true];
    }

    /** What reading made beside the files themselves goes when it has failed: it would be made anew. */
    public static function tidy(Import $import): void
    {
        foreach (['unpacked', 'shape'] as $folder) {
            File::deleteDirectory($import->folder($folder));
        }
        File::delete([
            ...glob($import->folder('read.*')) ?: [],
            ...array_map($import->folder(...), ['rows.csv', 'rows.csvt', 'sheet.csv']),
        ]);
    }

    public static function forget(Import $import): void
    {
        File::deleteDirectory($import->folder());
    }

    /** A small picture of a photo that waits for its place, upright. */
    public static function thumbnail(Import $import, int $row): ?string
    {
        $photos = (array) ($import->source['photos'] ?? []);
        $path = array_values($photos)[$row - 2] ?? null;
        if ($path === null || ! is_file($import->folder($path))) {
            return null;
        }
        $file = $import->folder($path);
        $size = @getimagesize($file);

        // Broken pictures are told as such where they are listed.
        return $size === false || $size[0] * $size[1] > FileArrival::MOST_PIXELS
            ? null
            : Pictures::drawn($file, Pictures::SIZES['thumb']);
    }

    private function whole(): bool
    {
        clearstatcache();
        foreach ($this->import->files as $n => $file) {
            if (filesize($this->import->file($n)) !== $file['bytes']) {
                return false;
            }
        }

        return true;
    }
}
