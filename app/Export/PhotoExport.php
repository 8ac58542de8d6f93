<?php

declare(strict_types=1);

namespace App\Export;

use App\Layers\StoredRow;
use App\Models\Attachment;
use App\Models\Export;
use Illuminate\Support\Facades\Storage;
use Illuminate\Support\Str;
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
            $records[$row->id] = [StoredRow::name($design, $row), (float) $row->lon, (float) $row->lat];
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
                [$name, $lon, $lat] = $records[$photo->record_id];
                $stem = Str::limit(
                    Str::slug((string) preg_replace('/\.(jpe?g|png|webp)$/iD', '', $name ?? '')) ?: 'record',
                    60,
                    '',
                );
                $used[$stem] = ($used[$stem] ?? 0) + 1;
                $file = sprintf('%s-%d.%s', $stem, $used[$stem], pathinfo($photo->path(), PATHINFO_EXTENSION));
                $disk = Storage::disk('attachments');
                $zip->addFile($disk->path($photo->path()), $file);
                // Pictures are packed already.
                $zip->setCompressionName($file, \ZipArchive::CM_STORE);
                $cells = [
                    $file,
                    RecordId::fromBytes($photo->record_id)->text,
                    $name ?? '',
                    $photo->slot ?? '',
                    (string) $lat,
                    (string) $lon,
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

    /** @return list<list<string>> the files of the records that go out, heads first */
    public static function list(Export $export): array
    {
        $list = [['record_id', 'name', 'slot', 'type', 'sha256']];
        $seen = [];
        foreach (RunExport::rows($export) as $row) {
            $seen[] = $row->id;
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
