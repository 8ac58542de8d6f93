<?php

declare(strict_types=1);

namespace App\Maps;

use App\Answers\KeptAnswer;
use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Maps\Tallies\AreaTallies;
use App\Models\Attachment;
use App\Models\Layer;
use App\Models\Slice;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use App\Texts;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Sharpness;
use PinYard\Carto\LayerOnMap;
use PinYard\Carto\Look;
use PinYard\Carto\MapTable;
use PinYard\Carto\Marks\Density;
use PinYard\Carto\WeightOfLayer;
use PinYard\Export\GeoJson;
use PinYard\Filter\Filter;
use PinYard\Refused;

/** One layer of a map as one viewer gets it, and nothing more: only the fields of its card, label and look leave. */
final class LayerPage
{
    private const MOST_WARNINGS = 5;

    private ?KeptAnswer $features = null;

    private ?DensityCells $cells = null;

    /**
     * @param  Slice|null  $slice  whose records are shown; null: all
     * @param  AreaTallies|null  $tallies  what its areas are coloured by, where they are coloured by records in them
     * @param  Slice|null  $search  of those only the records of a slice that were asked for; null: all of them
     * @param  list<Filter>  $picked  what was picked beside it, where it stands on a board
     */
    public function __construct(
        public readonly LayerOnMap $part,
        public readonly Layer $layer,
        private readonly ?Slice $slice,
        private readonly Viewer $viewer,
        public readonly ?AreaTallies $tallies = null,
        private readonly ?Slice $search = null,
        private readonly array $picked = [],
    ) {
    }

    public function seesNothing(): bool
    {
        return VisibleRecords::of($this->viewer, $this->layer)->seesNothing();
    }

    public function title(): string
    {
        return $this->part->title ?? $this->layer->title;
    }

    /** Names all that could change what this viewer is told of the layer; it stays on the server. */
    public function state(): string
    {
        return implode('|', [
            $this->layer->title,
            json_encode($this->part->toArray()),
            $this->recordsState(),
            $this->slice->name ?? '',
        ]);
    }

    /** As {@see state()}, without what only the marks say. */
    private function recordsState(): string
    {
        return implode('|', [
            StateOf::records($this->viewer, $this->layer, $this->slice, $this->search),
            $this->tallies?->state() ?? '',
            $this->part->label?->changes() === true ? WorkedOut::clock() : '',
            ...array_map(static fn (Filter $f): string => (string) json_encode($f->toArray()), $this->picked),
        ]);
    }

    /**
     * What is drawn. It is kept apart from how it is drawn, and is the same for looks that differ in their marks alone.
     */
    public function features(): KeptAnswer
    {
        return $this->features ??= KeptAnswer::of(
            implode('|', [
                'features',
                $this->viewer->ids(),
                $this->recordsState(),
                json_encode($this->part->carries()),
                json_encode($this->drawnFields()),
                $this->part->look->photos && $this->part->photos ? 'photos' : '',
            ]),
            fn (): array => $this->seesNothing()
                ? GeoJson::collection([])
                : $this->cells()?->features() ?? MapFeatures::features(
                    $this->records(),
                    $this->part->look,
                    null,
                    $this->part->label,
                    $this->tallies,
                    $this->marks(),
                ),
        );
    }

    /** The cells that stand for its records; null where each is drawn itself. */
    private function cells(): ?DensityCells
    {
        $marks = $this->part->look->marks;

        return $marks instanceof Density
            ? ($this->cells ??= new DensityCells($this->records(), $marks))
            : null;
    }

    /** @return array<string, string> the first photo of each record as this viewer knows it, where photos are marks */
    private function marks(): array
    {
        if (! $this->part->look->photos || ! $this->onCard()->sight->photos) {
            return [];
        }
        $drawn = $this->cut()->drawn(MapFeatures::MOST)->select('id');
        $first = Attachment::query()
            ->where('layer_id', $this->layer->id)
            // A limit is only taken by a query inside a query.
            ->whereIn('record_id', static fn (Builder $in) => $in->select('id')->fromSub($drawn, 'drawn'))
            ->where('state', 'stored')
            ->where('type', 'like', 'image/%')
            ->orderBy('position')
            ->orderBy('id')
            ->get(['id', 'record_id'])
            ->unique('record_id');
        $photos = [];
        foreach ($first as $photo) {
            $photos[$photo->record_id] = $this->viewer->idOf($photo->id);
        }

        return $photos;
    }

    /** @return array<string, mixed> */
    public function view(): array
    {
        $part = $this->part;
        $counts =
            $this->cells()?->counts() ?? MapFeatures::countsByClass($this->records(), $part->look, $this->tallies);
        $total = $this->cells() === null ? array_sum($counts) : $this->records()->count();

        return [
            'id' => $part->id,
            'title' => $this->title(),
            'by' => $this->tallies?->text() ?? MarksText::of($part->look->marks, $this->layer, $this->title()),
            'geometry' => $part->look->drawnAs()->value,
            'slice' => $this->slice?->name,
            'visible' => $part->visible,
            'in_legend' => $part->inLegend,
            'zoom' => $part->zoom->toArray(),
            'style' => $part->style(self::source($part->id)),
            'legend' => LegendText::of($part->look, $counts, $this->tallies),
            'sizes' => LegendText::sizes($part->look, MapFeatures::withoutSize($this->records(), $part->look)),
            'total' => $total,
            // Cells stand for all that lies in them.
            'drawn' => $this->cells() === null ? min($total, MapFeatures::MOST) : $total,
            'gather' => $part->look->gather?->source(),
            'version' => $this->features()->tag,
        ];
    }

    /** The name of its source in the map's style. */
    public static function source(string $part): string
    {
        return "on-$part";
    }

    public function weight(): WeightOfLayer
    {
        $total = $this->seesNothing() ? 0 : $this->records()->count();

        return new WeightOfLayer(
            $this->title(),
            min($total, MapFeatures::MOST),
            $total,
            $this->features()->length(),
            $this->part->visible,
        );
    }

    /** Why it is drawn so, where that was proposed and nobody has chosen otherwise. */
    public function why(): ?string
    {
        $design = $this->layer->design();
        if ($this->seesNothing() || $this->part->look->toArray() !== Look::suggest($design)->toArray()) {
            return null;
        }
        $reason = Look::reason($design);

        return Texts::of("look.why.{$reason['code']}", array_diff_key($reason, ['code' => 1]));
    }

    /** @return list<string> what whoever makes the map should know of the layer's marks */
    public function warnings(): array
    {
        if ($this->seesNothing()) {
            return [];
        }
        $look = $this->part->look;
        $called = [];
        foreach (LegendText::of($look, ['' => 1], $this->tallies) as $line) {
            $called[(string) ($line['code'] ?? '')] = $line['label'] ?? Texts::of('legend.other');
        }
        $sentences = [];
        foreach ($look->alike() as [$one, $other]) {
            // Retired choices are in no legend.
            if (isset($called[$one], $called[$other])) {
                $sentences[] = Texts::of('map.alike', ['one' => $called[$one], 'other' => $called[$other]]);
            }
        }

        return array_slice($sentences, 0, self::MOST_WARNINGS);
    }

    /**
     * @param  string  $record  as this viewer knows it
     * @return array<string, mixed>|null the card of a record
     */
    public function card(string $record): ?array
    {
        if ($this->cells() !== null) {
            return $this->cells()->card($record, $this->title());
        }
        $id = $this->id($record);
        $shown = $this->onCard();
        $row = $id === null ? null : $shown->find($id);
        if ($id === null || $row === null) {
            return null;
        }
        $design = $shown->design();
        $tallied = $this->tallies?->onCard($id);
        $values = $tallied === null ? [] : [['kind' => 'calculated'] + $tallied];
        foreach ($design->valueFields() as $field) {
            // What its sentences say is not told twice.
            if (! in_array($field->key, $this->part->fields, true)) {
                continue;
            }
            $text = StoredValue::shown($field, $row->{$field->column()} ?? null);
            if ($text !== null) {
                $values[] = ['label' => $field->label, 'kind' => $field->valueKind()->value, 'text' => $text];
            }
        }

        return [
            'id' => $record,
            'name' => $this->named() ? StoredRow::name($design, $row) : null,
            'text' => (new CardSentences($this->part->text, $shown, $this->tallies))->of($row),
            'chart' => $this->chart($shown, $row),
            'visits' => $this->part->visits === null
                ? null
                : CardVisitsView::of($this->part->visits, $this->layer, $id, $this->viewer),
            'collected_at' => StoredRow::instant($row->collected_at),
            'values' => $values,
            'photos' => $shown->sight->photos ? $this->photos($id) : [],
        ];
    }

    /** @return array{kind: string, bars: list<array{label: string, value: float, text: string}>}|null */
    private function chart(VisibleRecords $shown, \stdClass $row): ?array
    {
        $chart = $this->part->chart;
        $bars = [];
        foreach ($chart->fields ?? [] as $key) {
            $field = $shown->shows($key) ? $shown->design()->field($key) : null;
            $value = $field === null ? null : $row->{$field->column()} ?? null;
            // What is missing is no part of anything; and of a whole there are no parts below zero.
            if ($field !== null && $value !== null && ($chart?->kind !== 'donut' || $value >= 0)) {
                $bars[] = [
                    'label' => $field->label,
                    'value' => (float) $value,
                    'text' => StoredValue::shown($field, $value) ?? '',
                ];
            }
        }

        return $chart === null || $bars === [] ? null : ['kind' => $chart->kind, 'bars' => $bars];
    }

    /** The table beside the map. */
    public function table(MapTable $table): TableRows
    {
        return new TableRows(
            $table,
            $this->cut()->showing([...$table->fields(), ...$this->part->look->fields()]),
            $this->part->look,
            $this->tallies,
        );
    }

    /** Whether its card shows a photo: one of a record that is on this map. */
    public function shows(Attachment $photo): bool
    {
        return $this->layer->id === $photo->layer_id &&
            $this->onCard()->sight->photos &&
            $this->onCard()->has($photo->record_id);
    }

    /**
     * The photos that its cards show, with their records: `photo` and `record` (16 bytes each), `collected_at`,
     * `width`, `height`; null where they show none.
     */
    public function photosOnCards(): ?Builder
    {
        $shown = $this->onCard();
        // A cell stands for many records, and its card shows none of them.
        if ($this->cells() !== null || $this->seesNothing() || ! $shown->sight->photos) {
            return null;
        }

        return DB::table('attachments as file')
            ->joinSub($shown->rows(), 'shown', 'shown.id', '=', 'file.record_id')
            ->where('file.layer_id', $this->layer->id)
            ->where('file.state', 'stored')
            ->where('file.type', 'like', 'image/%')
            ->selectRaw('file.id as photo, file.record_id as record, shown.collected_at, file.width, file.height');
    }

    /**
     * What a wall of photos tells of records, beside what it knows of them.
     *
     * @param  list<string>  $ids  16 bytes each
     * @return array<string, array{name: string|null, lon: float|null, lat: float|null, place: string}> by id
     */
    public function onWall(array $ids): array
    {
        $shown = $this->onCard();
        $design = $shown->design();
        $named = $this->named();
        $told = [];
        foreach ($shown->rows()->whereIn('id', $ids)->get() as $row) {
            $told[$row->id] = [
                'name' => $named ? StoredRow::name($design, $row) : null,
                // Where no place is told there is not even a column of it.
                'lon' => $row->lon ?? null,
                'lat' => $row->lat ?? null,
                'place' => ($row->lon ?? null) === null
                    ? Sharpness::None->value
                    : $row->seen_place ?? $shown->sight->place->value,
            ];
        }

        return $told;
    }

    /** @return string|null 16 bytes */
    private function id(string $told): ?string
    {
        try {
            return $this->viewer->idFrom($told);
        } catch (Refused) {
            return null;
        }
    }

    /** The records with what is drawn of them. */
    private function records(): VisibleRecords
    {
        return $this->cut()->showing($this->drawnFields());
    }

    /** @return list<string> keys; a name that the card does not show is not told here either */
    private function drawnFields(): array
    {
        $name = $this->layer->design()->nameField()?->key;

        return array_values(array_unique(array_filter([
            ...$this->part->look->fields(),
            in_array($name, $this->part->fields, true) ? $name : null,
            ...$this->part->label?->fields() ?? [],
        ])));
    }

    /** The records with what the card shows of them. */
    private function onCard(): VisibleRecords
    {
        return $this->cut()->showing(
            [...$this->part->fields, ...$this->part->text->fields(), ...$this->part->chart->fields ?? []],
            $this->part->photos,
        );
    }

    /** A name that the card does not show is not told. */
    private function named(): bool
    {
        return in_array(
            $this->onCard()->design()->nameField()?->key,
            [...$this->part->fields, ...$this->part->text->said()],
            true,
        );
    }

    private function cut(): VisibleRecords
    {
        $visible = VisibleRecords::of($this->viewer, $this->layer);
        foreach ([$this->slice, $this->search] as $slice) {
            if ($slice !== null) {
                $visible = $visible->filtered($this->layer->filter($slice->filter));
            }
        }
        foreach ($this->picked as $filter) {
            $visible = $visible->filtered($filter);
        }

        return $visible;
    }

    /** @return list<array{id: string, state: string}> */
    private function photos(string $record): array
    {
        return array_values(
            Attachment::query()
                ->where('layer_id', $this->layer->id)
                ->where('record_id', $record)
                ->where('state', '!=', 'removed')
                ->where('type', 'like', 'image/%')
                ->orderBy('position')
                ->get()
                ->map(fn (Attachment $a): array => ['id' => $this->viewer->idOf($a->id), 'state' => $a->state])
                ->all(),
        );
    }
}
