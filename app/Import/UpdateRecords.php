<?php

declare(strict_types=1);

namespace App\Import;

use App\Layers\StoredRow;
use App\Models\Import;
use App\Models\Layer;
use App\Records\RecordEdit;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Position;
use PinYard\Import\ImportSettings;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;
use stdClass;

/**
 * Changes the records that rows of a table are about: only what differs, each with its history, as if it were changed
 * at the desk.
 */
final class UpdateRecords
{
    private const BATCH = 500;

    private readonly RecordMatcher $matching;

    /** @param  LayerDesign|null  $tried  in place of the layer's own, where one is only tried */
    public function __construct(
        private readonly Import $import,
        private readonly Layer $layer,
        private readonly ImportSettings $settings,
        private readonly ?LayerDesign $tried = null,
    ) {
        $this->matching = new RecordMatcher($layer, $settings);
    }

    public function run(): void
    {
        $counts = ['changed' => 0, 'unchanged' => 0, 'waiting' => 0];
        $done = 0;
        foreach ($this->batches() as $batch) {
            $this->import->progress($done += count($batch));
            foreach ($this->apply($batch) as $number => $outcome) {
                $counts[is_string($outcome) ? $outcome : 'waiting']++;
                is_string($outcome) || $this->wait($number, $batch[$number], $outcome);
            }
        }
        $this->import->update(['counts' => $counts]);
    }

    /**
     * Changes the records that rows are about.
     *
     * @param  array<int, array{list<string>, string|null}>  $batch
     * @param  bool  $anyway  whether a person has looked at the row and says that it counts
     * @return array<int, 'changed'|'unchanged'|list<Problem>> by row; rows that are about no record are left out
     */
    public function apply(array $batch, bool $anyway = false): array
    {
        $outcomes = [];
        foreach ($this->compared($batch, $anyway) as $number => [$row, $changes, $moved, $problems]) {
            if ($problems !== [] || $row === null) {
                $outcomes[$number] = $problems;
            } elseif ($changes === [] && $moved === null) {
                $outcomes[$number] = 'unchanged';
            } else {
                try {
                    $user = $this->import->user ?? throw new \LogicException('nobody brings this in');
                    $record = (new RecordEdit($user, $this->layer->id))->change(
                        RecordId::fromBytes($row->id)->text,
                        $row->version,
                        $changes,
                        $moved,
                    );
                    // Two rows may change the same record: taking back begins before the first, unless somebody else
                    // came in between.
                    DB::insert(
                        'insert into import_changes (import_id, record_id, base, version) values (?, ?, ?, ?) on '
                            .'duplicate key update base = if(version = values(base), base, values(base)), version '
                                .'= values(version)',
                        [$this->import->id, $row->id, $row->version, $record['version']],
                    );
                    $outcomes[$number] = 'changed';
                } catch (Refused $e) {
                    $outcomes[$number] = $e->problems;
                }
            }
        }

        return $outcomes;
    }

    /**
     * What rows would change, value by value; called for the rows of a table in their order.
     *
     * @param  array<int, array{list<string>, string|null}>  $batch
     * @return array<int, array{stdClass|null, array<string, mixed>, array<string, mixed>|null, list<Problem>}> record,
     *     changed values, new geometry, problems
     */
    public function compared(array $batch, bool $anyway = false): array
    {
        $design = $this->tried ?? $this->layer->design();
        [$known, $unclear] = $this->matching->next($batch);
        $takes = $anyway || $this->settings->conflicts === 'take';
        $rows = array_intersect_key($batch, $known);
        $maker = new RowMapper($this->settings, self::bare($design), $this->import->programme);
        $numbers = array_keys($rows);
        $compared = [];
        foreach ($maker->make(array_values($rows)) as $i => [$values, $at, $problems]) {
            $number = $numbers[$i];
            $row = $known[$number];
            // A row that does not say where it lies leaves the record where it is.
            $problems = array_values(
                array_filter(
                    $problems,
                    static fn (Problem $p): bool => $p !== $at->problem || $p->code !== 'intake_no_place',
                ),
            );
            $present = StoredRow::values($design, $row);
            $changes = [];
            $unfit = array_column(array_map(static fn (Problem $p): array => [$p->field], $problems), 0);
            foreach ($maker->filled as $j => $key) {
                // Whether an empty cell says nothing or takes the value away is for a person to say; one that could not
                // be read does neither.
                if (
                    $values[$j] !== $present[$key] &&
                    ($values[$j] !== null ||
                        ($this->settings->empties === 'clear' &&
                            in_array($key, $maker->keys, true) &&
                            ! in_array($key, $unfit, true)))
                ) {
                    $changes[$key] = $values[$j];
                }
            }
            $moved = null;
            if (
                $at->place instanceof Position &&
                (abs($at->place->lon - $row->lon) > 1e-7 || abs($at->place->lat - $row->lat) > 1e-7)
            ) {
                $moved = ['type' => 'Point', 'coordinates' => [$at->place->lon, $at->place->lat]];
            } elseif (
                $at->place !== null &&
                ! $at->place instanceof Position &&
                \PinYard\Geo\Wkb::column($at->place) !== ($row->shape ?? null)
            ) {
                $moved = $at->place->toGeoJson();
            }
            if (
                ! $takes &&
                $this->settings->seen !== null &&
                $row->change_number > $this->settings->seen &&
                ($changes !== [] || $moved !== null)
            ) {
                $problems[] = new Problem('intake_changed_since', 'key', null, [
                    'name' => StoredRow::name($design, $row) ?? '–',
                ]);
            }
            $compared[$number] = [$row, $changes, $moved, $problems];
        }
        foreach ($unclear as $number => $problem) {
            // An empty key where the file counts makes a record of its own; of what comes twice the later row counts.
            if (! $takes) {
                $compared[$number] = [$known[$number] ?? null, [], null, [$problem]];
            }
        }
        ksort($compared);

        return $compared;
    }

    /** Kinds, lengths and choices are judged here; rules over the whole record when it is written. */
    private static function bare(LayerDesign $design): LayerDesign
    {
        $document = $design->toArray();
        $document['fields'] = array_values(
            array_map(
                static fn (array $f): array => array_diff_key($f, [
                    'required' => 1,
                    'read_only' => 1,
                    'show_when' => 1,
                    'require_when' => 1,
                    'default' => 1,
                    'limits' => 1,
                ]),
                array_filter($document['fields'], static fn (array $f): bool => $f['kind'] !== 'calculated'),
            ),
        );
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
        foreach ((new ImportRows($this->import))->rows($this->settings->headRow) as $number => $row) {
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
            'import_id' => $this->import->id,
            'row' => $number,
            'cells' => json_encode(['cells' => $row[0], 'wkt' => $row[1]], JSON_UNESCAPED_UNICODE),
            'problems' => json_encode(
                Texts::problems($problems),
                JSON_UNESCAPED_UNICODE | JSON_PARTIAL_OUTPUT_ON_ERROR,
            ),
            'place' => null,
        ]);
    }
}
