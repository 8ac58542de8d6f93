<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Import;
use App\Models\Layer;
use App\Records\RecordEdit;
use App\Storage\Records;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Position;
use PinYard\Intake\IntakeSettings;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** Changes the records that rows of a table are about: only what differs, each with its history, as if it were changed at the desk. */
final class UpdateRecords
{
    private const BATCH = 500;

    public function __construct(private readonly Import $import, private readonly Layer $layer, private readonly IntakeSettings $settings)
    {
    }

    public function run(): void
    {
        $counts = ['changed' => 0, 'unchanged' => 0];
        $done = 0;
        foreach ($this->batches() as $batch) {
            $this->import->progress($done += count($batch));
            foreach ($this->compared($batch) as $number => [$row, $changes, $moved, $problems]) {
                if ($problems !== []) {
                    $this->wait($number, $batch[$number], $problems);

                    continue;
                }
                if ($changes === [] && $moved === null) {
                    $counts['unchanged']++;

                    continue;
                }
                try {
                    $user = $this->import->user ?? throw new \LogicException('nobody brings this in');
                    $record = (new RecordEdit($user, $this->layer->id))->change(RecordId::fromBytes($row->id)->text, $row->version, $changes, $moved);
                    DB::table('import_changes')->insertOrIgnore(['import_id' => $this->import->id, 'record_id' => $row->id, 'version' => $record['version']]);
                    $counts['changed']++;
                } catch (Refused $e) {
                    $this->wait($number, $batch[$number], $e->problems);
                }
            }
        }
        $this->import->update(['counts' => $counts]);
    }

    /**
     * What rows would change, value by value.
     *
     * @param  array<int, array{list<string>, string|null}>  $batch
     * @return array<int, array{object, array<string, mixed>, array<string, mixed>|null, list<Problem>}> record, changed values, new geometry, problems
     */
    public function compared(array $batch): array
    {
        $design = $this->layer->design();
        $known = Matching::records($this->layer, $this->settings, $batch);
        $rows = array_intersect_key($batch, $known);
        $maker = new Maker($this->settings, self::bare($design), $this->import->programme);
        $numbers = array_keys($rows);
        $compared = [];
        foreach ($maker->make(array_values($rows)) as $i => [$values, $at, $problems]) {
            $number = $numbers[$i];
            $row = $known[$number];
            // A row that does not say where it lies leaves the record where it is.
            $problems = array_values(array_filter($problems, static fn (Problem $p): bool => $p !== $at->problem || $p->code !== 'intake_no_place'));
            $present = Records::values($design, $row);
            $changes = [];
            foreach ($maker->filled as $j => $key) {
                // An empty cell says nothing; it takes no value away.
                if ($values[$j] !== null && $values[$j] !== $present[$key]) {
                    $changes[$key] = $values[$j];
                }
            }
            $moved = null;
            if ($at->place instanceof Position && (abs($at->place->lon - $row->lon) > 1e-7 || abs($at->place->lat - $row->lat) > 1e-7)) {
                $moved = ['type' => 'Point', 'coordinates' => [$at->place->lon, $at->place->lat]];
            } elseif ($at->place !== null && ! $at->place instanceof Position && \PinYard\Geo\Wkb::column($at->place) !== ($row->shape ?? null)) {
                $moved = $at->place->toGeoJson();
            }
            $compared[$number] = [$row, $changes, $moved, $problems];
        }

        return $compared;
    }

    /** Kinds, lengths and choices are judged here; rules over the whole record when it is written. */
    private static function bare(LayerDesign $design): LayerDesign
    {
        $document = $design->toArray();
        $document['fields'] = array_values(array_map(static fn (array $f): array => array_diff_key($f, ['required' => 1, 'read_only' => 1, 'show_when' => 1, 'require_when' => 1, 'default' => 1, 'limits' => 1]), array_filter($document['fields'], static fn (array $f): bool => $f['kind'] !== 'calculated')));
        unset($document['visits_of']);
        if (! in_array($document['name_field'] ?? null, array_column($document['fields'], 'key'), true)) {
            unset($document['name_field']);
        }

        return LayerDesign::fromArray($document);
    }

    /** @return \Generator<array<int, array{list<string>, string|null}>> */
    private function batches(): \Generator
    {
        $batch = [];
        foreach ((new Table($this->import))->rows($this->settings->headRow) as $number => $row) {
            $batch[$number] = $row;
            if (count($batch) === self::BATCH) {
                if ($this->import->wantsStop()) {
                    throw Refused::because('intake_stopped', 'file');
                }
                yield $batch;
                $batch = [];
            }
        }
        yield $batch;
    }

    /**
     * @param  array{list<string>, string|null}  $row
     * @param  list<Problem>  $problems
     */
    private function wait(int $number, array $row, array $problems): void
    {
        DB::table('import_rows')->insertOrIgnore([
            'import_id' => $this->import->id, 'row' => $number, 'cells' => json_encode(['cells' => $row[0], 'wkt' => $row[1]], JSON_UNESCAPED_UNICODE), 'problems' => json_encode(Texts::problems($problems), JSON_UNESCAPED_UNICODE | JSON_PARTIAL_OUTPUT_ON_ERROR), 'place' => null,
        ]);
    }
}
