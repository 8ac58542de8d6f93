<?php

declare(strict_types=1);

namespace App\Import;

use App\Files\MakeThumbnails;
use App\Layers\LayerRows;
use App\Models\Attachment;
use App\Models\Import;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PinYard\Device\FileType;
use PinYard\Import\ImportSettings;
use PinYard\Record\RecordId;

/** Puts each photo of an import to the record that was made of it. */
final readonly class PhotosOfRows
{
    private const MOST_PIXELS = 100_000_000;

    public function __construct(private Import $import, private Layer $layer)
    {
    }

    /** For all records that the import has made so far and that have no photo yet. */
    public function attach(): void
    {
        $photos = (array) ($this->import->source['photos'] ?? []);
        if ($photos === []) {
            return;
        }
        $settings = ImportSettings::of((array) $this->import->settings);
        foreach ((new ImportRows($this->import))->rows($settings->headRow) as $number => [$cells]) {
            $path = $photos[$cells[0]] ?? null;
            $record = $this->import->idOf($number);
            if (
                $path === null ||
                ! LayerRows::all($this->layer)->where('id', $record)->exists() ||
                DB::table('attachments')->where('layer_id', $this->layer->id)->where('record_id', $record)->exists()
            ) {
                continue;
            }
            self::keep($this->layer, $record, $this->import->folder($path), $cells[0], $this->import->user_id);
        }
    }

    /** @return bool false where it is no picture that can be drawn */
    public static function keep(Layer $layer, string $record, string $file, string $name, ?int $user): bool
    {
        $size = @getimagesize($file);
        $type = match ($size === false ? 0 : $size[2]) {
            IMAGETYPE_JPEG => FileType::Jpeg,
            IMAGETYPE_PNG => FileType::Png,
            IMAGETYPE_WEBP => FileType::Webp,
            default => null,
        };
        if ($size === false || $type === null || $size[0] * $size[1] > self::MOST_PIXELS) {
            return false;
        }
        $photo = new Attachment([
            'id' => RecordId::make()->bytes(),
            'layer_id' => $layer->id,
            'record_id' => $record,
            'position' => DB::table('attachments')->where('layer_id', $layer->id)->where('record_id', $record)->count(),
            'slot' => null,
            'name' => mb_substr($name, 0, 120),
            'type' => $type->value,
            'bytes' => (int) filesize($file),
            'sha256' => (string) hash_file('sha256', $file),
            'state' => 'stored',
            'width' => $size[0],
            'height' => $size[1],
            'created_by' => $user,
            'created_at' => now(),
        ]);
        $photo->save();
        $stream = fopen($file, 'rb') ?: throw new \RuntimeException("cannot read $file");
        Storage::disk('attachments')->put($photo->path(), $stream);
        fclose($stream);
        $id = $photo->text();
        DB::afterCommit(static fn () => MakeThumbnails::dispatch($id));

        return true;
    }
}
