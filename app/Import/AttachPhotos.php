<?php

declare(strict_types=1);

namespace App\Import;

use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Models\Import;
use App\Models\Layer;
use App\Records\Cause;
use App\Records\RecordWriter;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;
use PinYard\Geo\Geodesic;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Import\ImportSettings;
use PinYard\Problem;
use stdClass;

/** Puts photos to the nearest record within a distance; those without one wait. */
final readonly class AttachPhotos
{
    /** Metres of a degree of latitude, at the least (at the equator 110,574). */
    private const DEGREE = 110_000;

    public function __construct(private Import $import, private Layer $layer, private ImportSettings $settings)
    {
    }

    /** Of the photos nothing is wanted but where they were taken. */
    public static function design(): LayerDesign
    {
        return LayerDesign::fromArray([
            'title' => 'Photos',
            'geometry' => 'point',
            'fields' => [['key' => 'photo', 'label' => 'Photo', 'kind' => 'short_text']],
        ]);
    }

    /** All of them in one transaction, under the layer's lock. */
    public function run(): void
    {
        RecordWriter::locked(
            $this->layer->id,
            Cause::Import,
            $this->import->user_id,
            function (RecordWriter $writer): void {
                $maker = RowMapper::for($this->import, self::design());
                $counts = ['read' => 0, 'made' => 0, 'changed' => 0, 'waiting' => 0];
                foreach ((new ImportRows($this->import))->rows($this->settings->headRow) as $number => $row) {
                    $counts['read']++;
                    [, $at, $problems] = $maker->make([$row])[0];
                    $problem =
                        $at->place instanceof Position
                            ? self::put($this->import, $writer, $this->settings, $row[0][0] ?? '', $at->place)
                            : $at->problem ?? ($problems[0] ?? new Problem('intake_no_place', 'place'));
                    if ($problem === null) {
                        $counts['changed']++;

                        continue;
                    }
                    $counts['waiting']++;
                    DB::table('import_rows')->insert([
                        'import_id' => $this->import->id,
                        'row' => $number,
                        'cells' => json_encode(['cells' => $row[0], 'wkt' => null], JSON_UNESCAPED_UNICODE),
                        'problems' => json_encode(Texts::problems([$problem]), JSON_UNESCAPED_UNICODE),
                        'place' => null,
                    ]);
                }
                $this->import->update([
                    'state' => 'done',
                    'landed_at' => now(),
                    'problems' => null,
                    'counts' => $counts,
                ]);
            },
            1,
        );
    }

    /** One photo to the record nearest to a place. */
    public static function put(
        Import $import,
        RecordWriter $writer,
        ImportSettings $settings,
        string $name,
        Position $at,
    ): ?Problem {
        $layer = $writer->layer;
        $path = ((array) ($import->source['photos'] ?? []))[$name] ?? null;
        if ($path === null) {
            return new Problem('intake_row', 'row');
        }
        $found = self::nearest($layer, $at, $settings->within);
        if ($found === null) {
            return new Problem('intake_none_near', 'place', null, [
                'within' => $settings->within,
                'layer' => $layer->title,
            ]);
        }
        $photos = $layer->design()->photos;
        $there = DB::table('attachments')
            ->where('layer_id', $layer->id)
            ->where('record_id', $found->id)
            ->whereNull('slot')
            ->where('state', '!=', 'removed')
            ->count();
        if (! $photos->allowed || $there >= $photos->most) {
            return new Problem('intake_photos_full', 'place', null, [
                'name' => StoredRow::name($layer->design(), $found) ?? '–',
                'most' => $photos->allowed ? $photos->most : 0,
            ]);
        }
        if (! PhotosOfRows::keep($layer, $found->id, $import->folder($path), $name, $import->user_id)) {
            return new Problem('photo_no_picture', 'photos', $name, ['name' => $name]);
        }
        // A photo's arrival counts as a change of its record.
        $writer->touch([$found->id]);
        DB::table('import_changes')->insertOrIgnore([
            'import_id' => $import->id,
            'record_id' => $found->id,
            'base' => $found->version,
            'version' => $found->version,
        ]);

        return null;
    }

    private static function nearest(Layer $layer, Position $at, float $within): ?stdClass
    {
        $tall = $within / self::DEGREE;
        $wide = min(90.0, $tall / max(0.01, cos(deg2rad($at->lat))));
        $wrap = static fn (float $lon): float => $lon > 180 ? $lon - 360 : ($lon < -180 ? $lon + 360 : $lon);
        $box = Box::of(
            $wrap($at->lon - $wide),
            max(-90.0, $at->lat - $tall),
            $wrap($at->lon + $wide),
            min(90.0, $at->lat + $tall),
        );
        $best = null;
        $least = $within;
        foreach (
            LayerRows::within(
                LayerRows::live($layer),
                $box,
                $layer->has_shapes ? $layer->design()->geometry : GeometryKind::Point,
            )->get() as $row
        ) {
            $metres = Geodesic::metres($at->lon, $at->lat, (float) $row->lon, (float) $row->lat);
            if ($metres <= $least) {
                [$best, $least] = [$row, $metres];
            }
        }

        return $best;
    }
}
