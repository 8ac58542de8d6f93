<?php

declare(strict_types=1);

namespace App\Import;

use App\Layers\PlaceColumns;
use App\Layers\StoredValue;
use App\Models\Import;
use App\Models\Layer;
use App\Records\Cause;
use App\Records\RecordWriter;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Export\SafeCell;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Import\ImportSettings;
use PinYard\Problem;
use PinYard\Refused;
use stdClass;

/** Rows of an import that could not land: shown, mended, tried again. */
final readonly class RejectedRows
{
    public const PAGE = 100;

    public function __construct(private Import $import)
    {
    }

    /** @return list<array<string, mixed>> */
    public function page(int $page): array
    {
        $rows = [];
        foreach (
            DB::table('import_rows')
                ->where('import_id', $this->import->id)
                ->orderBy('row')
                ->offset($page * self::PAGE)
                ->limit(self::PAGE)
                ->get() as $row
        ) {
            $cells = json_decode($row->cells, true);
            $rows[] = [
                'row' => $row->row,
                'cells' => $cells['cells'],
                'problems' => Texts::keptProblems((array) json_decode($row->problems, true)),
                'place' => $row->place === null ? null : json_decode($row->place, true),
                'mended' => (bool) $row->mended,
            ];
        }

        return $rows;
    }

    /**
     * Cells that a person corrected, or the place that was chosen.
     *
     * @param  array<mixed>  $cells  by their place in the table
     *
     * @throws Refused
     */
    public function mend(int $number, array $cells, mixed $place): void
    {
        $row =
            DB::table('import_rows')->where('import_id', $this->import->id)->where('row', $number)->first() ??
            throw Refused::because('intake_row', 'row', $number);
        $kept = json_decode($row->cells, true);
        foreach ($cells as $i => $text) {
            if (
                ! is_int($i) ||
                ! isset($this->import->reading['columns'][$i]) ||
                ! is_string($text) ||
                mb_strlen($text) > 20_000
            ) {
                throw Refused::because('intake_cell', 'cells', is_scalar($text) ? $text : null);
            }
            $kept['cells'] = array_pad($kept['cells'], $i + 1, '');
            $kept['cells'][$i] = $text;
        }
        $chosen = $row->place === null ? [] : (array) json_decode($row->place, true);
        if (is_array($place)) {
            $at = Position::of($place['lon'] ?? null, $place['lat'] ?? null);
            $chosen['chosen'] = ['lon' => $at->lon, 'lat' => $at->lat];
        } elseif ($cells !== []) {
            unset($chosen['chosen']);
        }
        DB::table('import_rows')
            ->where('import_id', $this->import->id)
            ->where('row', $number)
            ->update([
                'cells' => json_encode($kept, JSON_UNESCAPED_UNICODE),
                'place' => $chosen === [] ? null : json_encode($chosen, JSON_UNESCAPED_UNICODE),
                'mended' => true,
            ]);
    }

    /**
     * Tries rows again.
     *
     * @param  list<int>|null  $numbers  null for all
     * @param  float|null  $match  takes the best proposed place from this likeness on
     * @return array{landed: int, waiting: int}
     */
    public function retry(?array $numbers, ?float $match = null): array
    {
        $settings = ImportSettings::of((array) $this->import->settings);
        $landed = DB::transaction(function () use ($numbers, $match, $settings): int {
            $layer =
                Layer::query()->with('programme')->lockForUpdate()->find($this->import->layer_id) ??
                throw Refused::because('intake_layer', 'layer');
            $maker = new RowMapper(
                $settings,
                $settings->mode === 'attach' ? AttachPhotos::design() : $layer->design(),
                $this->import->programme,
            );
            $landed = 0;
            $query = DB::table('import_rows')
                ->where('import_id', $this->import->id)
                ->when($numbers !== null, static fn ($q) => $q->whereIn('row', $numbers ?? []))
                ->orderBy('row');
            $parts = [];
            foreach ($query->get()->chunk(500) as $rows) {
                $parts[] =
                    $settings->mode === 'update'
                        ? $this->update($layer, $settings, array_values($rows->all()), $landed)
                        : array_values($rows->all());
            }
            $landed += RecordWriter::locked(
                $layer->id,
                Cause::Import,
                $this->import->user_id,
                function (RecordWriter $writer) use ($parts, $maker, $settings, $match): int {
                    return array_sum(
                        array_map(
                            fn (array $rows): int => $this->land($writer, $maker, $settings, $rows, $match),
                            $parts,
                        ),
                    );
                },
                1,
            );
            if ($settings->mode !== 'attach') {
                (new PhotosOfRows($this->import, $layer))->attach();
            }
            $counts = (array) $this->import->counts;
            $done = $settings->mode === 'attach' ? 'changed' : 'made';
            $this->import->update([
                'counts' => [
                    'waiting' => DB::table('import_rows')->where('import_id', $this->import->id)->count(),
                    $done => ($counts[$done] ?? 0) + $landed,
                ] + $counts,
            ]);

            return $landed;
        }, 3);

        return ['landed' => $landed, 'waiting' => (int) ($this->import->counts['waiting'] ?? 0)];
    }

    /**
     * Rows about records that are there change those: they were looked at, and whoever tries them again means it.
     *
     * @param  list<stdClass>  $rows
     * @return list<stdClass> the others
     */
    private function update(Layer $layer, ImportSettings $settings, array $rows, int &$landed): array
    {
        $batch = [];
        foreach ($rows as $row) {
            $kept = json_decode($row->cells, true);
            $batch[$row->row] = [$kept['cells'], $kept['wkt']];
        }
        $outcomes = (new UpdateRecords($this->import, $layer, $settings))->apply($batch, true);
        foreach ($outcomes as $number => $outcome) {
            $query = DB::table('import_rows')->where('import_id', $this->import->id)->where('row', $number);
            if (is_string($outcome)) {
                $query->delete();
                $landed++;
            } else {
                $query->update([
                    'problems' => json_encode(
                        Texts::problems($outcome),
                        JSON_UNESCAPED_UNICODE | JSON_PARTIAL_OUTPUT_ON_ERROR,
                    ),
                    'mended' => false,
                ]);
            }
        }

        return array_values(array_filter($rows, static fn (stdClass $row): bool => ! isset($outcomes[$row->row])));
    }

    /** @param  list<stdClass>  $rows */
    private function land(
        RecordWriter $writer,
        RowMapper $maker,
        ImportSettings $settings,
        array $rows,
        ?float $match,
    ): int {
        $layer = $writer->layer;
        $batch = array_map(static function (stdClass $row): array {
            $kept = json_decode($row->cells, true);

            return [$kept['cells'], $kept['wkt']];
        }, $rows);
        $records = $done = [];
        foreach ($maker->make($batch) as $i => [$values, $at, $problems]) {
            $row = $rows[$i];
            $place = $at->place;
            $told = $row->place === null ? [] : (array) json_decode($row->place, true);
            $best = $match !== null && ($told['candidates'][0]['score'] ?? 0) >= $match ? $told['candidates'][0] : null;
            $chosen = $told['chosen'] ?? $best;
            // What a person showed on the map counts more than what the row says.
            if (is_array($chosen) && ($place === null || isset($told['chosen']))) {
                $place = Position::of($chosen['lon'], $chosen['lat']);
                $problems = array_values(array_filter($problems, static fn (Problem $p): bool => $p !== $at->problem));
            }
            if ($place instanceof Position && $settings->mode === 'attach') {
                $problem = AttachPhotos::put($this->import, $writer, $settings, $batch[$i][0][0] ?? '', $place);
                $problems = $problem === null ? [] : [$problem];
                if ($problem === null) {
                    $done[] = $row->row;

                    continue;
                }
            }
            if ($place === null || $problems !== []) {
                DB::table('import_rows')
                    ->where('import_id', $this->import->id)
                    ->where('row', $row->row)
                    ->update([
                        'problems' => json_encode(
                            Texts::problems($problems),
                            JSON_UNESCAPED_UNICODE | JSON_PARTIAL_OUTPUT_ON_ERROR,
                        ),
                        'mended' => false,
                        'place' => $at->candidates !== []
                                ? json_encode(['candidates' => $at->candidates], JSON_UNESCAPED_UNICODE)
                                : ($at->problem === null
                                    ? null
                                    : $row->place),
                    ]);

                continue;
            }
            $record = [
                'id' => $this->import->idOf($row->row),
                ...PlaceColumns::of($place instanceof Position ? Shape::point($place) : $place, $layer->has_shapes),
                'version' => 1,
                'change_number' => $writer->next(),
                'design_version' => $layer->design_version,
                'created_by' => $this->import->user_id,
                'collected_at' => now()->format('Y-m-d H:i:s.v'),
                'received_at' => now()->format('Y-m-d H:i:s.v'),
            ];
            foreach ($maker->filled as $j => $key) {
                $record[$layer->columnOf($key)] = StoredValue::toColumn(
                    $layer->kindOf($key) ?? throw new \LogicException("no column for $key"),
                    $values[$j],
                );
            }
            $records[] = $record;
            $done[] = $row->row;
        }
        $writer->write($records, [], [], []);
        DB::table('import_rows')->where('import_id', $this->import->id)->whereIn('row', $done)->delete();

        return count($done);
    }

    /** @return \Generator<list<string>> rows of a CSV file with what stands against each, heads first */
    public function csv(): \Generator
    {
        $names = array_column((array) ($this->import->reading['columns'] ?? []), 'name');
        yield ['Row', ...$names, 'Reason'];
        foreach (
            DB::table('import_rows')->where('import_id', $this->import->id)->orderBy('row')
                ->lazyById(1_000, 'row') as $row
        ) {
            $cells = array_slice(
                array_pad(json_decode($row->cells, true)['cells'], count($names), ''),
                0,
                count($names),
            );
            // No spreadsheet shall carry out what somebody wrote into a cell; bringing it in again takes the sign off.
            // A number with its sign is what it is; behind it, too, nothing is carried out.
            $cells = array_map(
                static fn (string $c): string => preg_match('/^[-+][\d., ]+$/D', $c) === 1 ? $c : SafeCell::text($c),
                $cells,
            );
            yield [
                (string) $row->row,
                ...array_values($cells),
                implode(' ', array_column(json_decode($row->problems, true), 'message')),
            ];
        }
    }
}
