<?php

declare(strict_types=1);

namespace App\Maps;

use App\Answers\KeptAnswer;
use App\Backdrops;
use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Attachment;
use App\Models\Layer;
use App\Models\Map;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use App\Texts;
use PinYard\Carto\Look;
use PinYard\Carto\Peg;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;
use PinYard\Refused;

/** What the audience of a map gets of it, and nothing more: only the card's fields leave. */
final readonly class MapPage
{
    private const MOST_WARNINGS = 5;

    private LayerDesign $design;

    private Layer $layer;

    public function __construct(private Map $map, private Viewer $viewer)
    {
        $this->layer = $map->layer ?? throw new \LogicException('the layer of this map rests in the bin');
        $this->design = $this->layer->design();
    }

    /** Read where it is needed alone: whoever asks whether something has changed needs no look. */
    private function look(): Look
    {
        return self::readLook($this->map->look, $this->design);
    }

    /** How a map's layer is drawn. */
    public static function lookOf(Map $map): Look
    {
        return self::readLook(
            $map->look,
            ($map->layer ?? throw new \LogicException('a map whose layer is in the bin is not drawn'))->design(),
        );
    }

    /**
     * The field that a look goes by may have left the design since; the map is then drawn by what there is.
     *
     * @param  array<string, mixed>  $document
     */
    private static function readLook(array $document, LayerDesign $design): Look
    {
        try {
            return Look::read($document, $design);
        } catch (Refused) {
            return Look::suggest($design);
        }
    }

    /** @return list<array{head: string, colour: string}> the first marks of the map, to know it by */
    public function pegs(): array
    {
        $pegs = $this->look()->classes === [] ? [$this->look()->other] : array_values($this->look()->classes);

        return array_map(
            static fn (Peg $p): array => ['head' => $p->head, 'colour' => $p->colour],
            array_slice($pegs, 0, 6),
        );
    }

    /** The view, made once for each way of seeing and state of the map and its layer. */
    public function kept(): KeptAnswer
    {
        $map = $this->map;
        $layer = $this->layer;
        $state = implode('|', [
            VisibleRecords::of($this->viewer, $layer)->key(),
            $map->id,
            (string) $map->getRawOriginal('updated_at'),
            md5((string) json_encode($map->getAttributes())),
            $layer->change_number,
            $layer->design_version,
            (string) $layer->getRawOriginal('updated_at'),
            $layer->programme->designs,
            $layer->programme->name,
            Backdrops::version(),
        ]);

        return KeptAnswer::of("map|$state", $this->view(...));
    }

    /** @return array<string, mixed> */
    private function view(): array
    {
        $records = $this->records();
        // What fields and choices of a closed layer are called is as closed as its records.
        $closed = $records->seesNothing();

        return [
            'title' => $this->map->title,
            'programme' => $this->layer->programme->name,
            'extent' => $this->map->extent,
            'viewpoints' => $this->map->viewpoints ?? [],
            'backdrops' => Backdrops::for(Box::of(...$this->map->extent)),
            ...$closed
                ? ['by' => null, ...MapFeatures::nothing()]
                : ['by' => $this->look()->field?->label, ...MapFeatures::view($records, $this->look())],
        ];
    }

    /** @return list<string> what whoever makes the map should know of its marks */
    public function warnings(): array
    {
        $look = $this->look();
        $called = [];
        foreach (LegendText::of($look, ['' => 1]) as $line) {
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

    /** @return array<string, mixed> */
    public function features(): array
    {
        return $this->records()->seesNothing()
            ? MapFeatures::nothing()['features']
            : MapFeatures::features($this->records(), $this->look());
    }

    /**
     * @param  string  $record  as this viewer knows it
     * @return array<string, mixed>|null the card of a record
     */
    public function card(string $record): ?array
    {
        $id = $this->id($record);
        $row = $id === null ? null : $this->onCard()->find($id);
        if ($id === null || $row === null) {
            return null;
        }
        $shown = $this->onCard()->design();
        $values = [];
        foreach ($shown->valueFields() as $field) {
            $text = StoredValue::shown($field, $row->{$field->column()} ?? null);
            if ($text !== null) {
                $values[] = ['label' => $field->label, 'kind' => $field->valueKind()->value, 'text' => $text];
            }
        }

        return [
            'id' => $record,
            'name' => StoredRow::name($shown, $row),
            'collected_at' => StoredRow::instant($row->collected_at),
            'values' => $values,
            'photos' => $this->onCard()->sight->photos ? $this->photos($id) : [],
        ];
    }

    /**
     * A photo, if the card shows photos and it belongs to a record of this map.
     *
     * @param  string  $photo  as this viewer knows it
     */
    public function photo(string $photo): ?Attachment
    {
        $id = $this->onCard()->sight->photos ? $this->id($photo) : null;
        $found = $id === null ? null : Attachment::query()->find($id);

        return $found !== null && $found->layer_id === $this->map->layer_id && $this->onCard()->has($found->record_id)
            ? $found
            : null;
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

    /** The records with what is drawn of them; a name that the card does not show is not told here either. */
    private function records(): VisibleRecords
    {
        $name = $this->design->nameField()?->key;
        $told = array_filter(
            [$this->look()->field?->key, in_array($name, $this->map->card['fields'], true) ? $name : null],
            is_string(...),
        );

        return VisibleRecords::of($this->viewer, $this->layer)->showing(array_values($told));
    }

    /** The records with what the card shows of them. */
    private function onCard(): VisibleRecords
    {
        return VisibleRecords::of($this->viewer, $this->layer)->showing(
            $this->map->card['fields'],
            $this->map->card['photos'] === true,
        );
    }

    /** @return list<array{id: string, state: string}> */
    private function photos(string $record): array
    {
        return array_values(
            Attachment::query()
                ->where('layer_id', $this->map->layer_id)
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
