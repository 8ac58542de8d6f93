<?php

declare(strict_types=1);

namespace App\Export;

use App\Files\Pictures;
use App\Layers\StoredRow;
use App\Models\Attachment;
use App\Models\Export;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
use PinYard\Device\FileKind;
use PinYard\Device\FileType;
use PinYard\Record\RecordId;
use stdClass;

/** The files of records as a zip, each named after its record, with an index. */
final class PhotoExport
{
    /** @param  iterable<stdClass>  $rows */
    public static function write(Export $export, iterable $rows): int
    {
        $design = $export->layer->design();
        $records = [];
        foreach ($rows as $row) {
            if ($row->seen_photos ?? true) {
                $place = $row->lon === null ? ['', ''] : [(string) $row->lon, (string) $row->lat];
                $records[$row->id] = [StoredRow::name($design, $row), ...$place, (bool) ($row->seen_exact ?? true)];
            }
        }
        $zip = new \ZipArchive;
        $zip->open($export->path(), \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        $index = "\xEF\xBB\xBFFile,Record,Name,Slot,Latitude,Longitude,Original name\r\n";
        $used = [];
        $count = 0;
        foreach (array_chunk(array_keys($records), 500) as $some) {
            foreach (
                Attachment::query()
                    ->where('layer_id', $export->layer_id)
                    ->whereIn('record_id', $some)
                    ->where('state', 'stored')
                    ->orderBy('record_id')
                    ->orderBy('position')
                    ->get() as $photo
            ) {
                [$name, $lon, $lat, $exact] = $records[$photo->record_id];
                // The file as it came says where it was taken: of a place that is not told there are those drawn anew.
                $path = $exact ? $photo->path() : self::drawnAnew($photo);
                if ($path === null) {
                    continue;
                }
                $stem = Str::limit(
                    Str::slug((string) preg_replace('/\.(jpe?g|png|webp)$/iD', '', $name ?? '')) ?: 'record',
                    60,
                    '',
                );
                $used[$stem] = ($used[$stem] ?? 0) + 1;
                $file = sprintf('%s-%d.%s', $stem, $used[$stem], pathinfo($path, PATHINFO_EXTENSION));
                $disk = Storage::disk('attachments');
                $zip->addFile($disk->path($path), $file);
                // Pictures are packed already.
                $zip->setCompressionName($file, \ZipArchive::CM_STORE);
                $cells = [
                    $file,
                    RecordId::fromBytes($photo->record_id)->text,
                    $name ?? '',
                    $photo->slot ?? '',
                    $lat,
                    $lon,
                    $photo->name,
                ];
                $index .=
                    implode(
                        ',',
                        array_map(
                            static fn (string $c): string => '"'.
                                str_replace('"', '""', $c !== '' && strpbrk($c[0], '=+@') !== false ? "'$c" : $c).
                                '"',
                            $cells,
                        ),
                    )."\r\n";
                RunExport::report($export, ++$count);
            }
        }
        $zip->addFromString('index.csv', $index);
        $zip->close();

        return $count;
    }

    private static function drawnAnew(Attachment $photo): ?string
    {
        return FileType::from($photo->type)->kind() === FileKind::Photo ? Pictures::sized($photo, 'view') : null;
    }

    /** @return list<list<string>> the files of the records that go out, heads first */
    public static function list(Export $export): array
    {
        $list = [['record_id', 'name', 'slot', 'type', 'sha256']];
        $seen = [];
        foreach (RunExport::rows($export) as $row) {
            // A sum of the file as it came would name it to whoever has it from elsewhere.
            if (($row->seen_photos ?? true) && ($row->seen_exact ?? true)) {
                $seen[] = $row->id;
            }
        }
        foreach (array_chunk($seen, 1_000) as $some) {
            foreach (
                Attachment::query()
                    ->where('layer_id', $export->layer_id)
                    ->whereIn('record_id', $some)
                    ->where('state', 'stored')
                    ->get() as $photo
            ) {
                $list[] = [
                    RecordId::fromBytes($photo->record_id)->text,
                    $photo->name,
                    $photo->slot ?? '',
                    $photo->type,
                    $photo->sha256,
                ];
            }
        }

        return $list;
    }
}
