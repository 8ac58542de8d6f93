<?php

declare(strict_types=1);

namespace App\Publishing;

use App\Backdrops;
use App\Models\Attachment;
use App\Models\Map;
use App\Models\User;
use App\Storage\MapFeatures;
use App\Storage\Records;
use App\Storage\StoredValue;
use PinYard\Carto\Look;
use PinYard\Carto\Peg;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** What the audience of a map gets of it, and nothing more: only the card's fields leave. */
final readonly class MapPage
{
    private LayerDesign $design;

    private Look $look;

    /** @param  User|null  $viewer null for whoever has the map's link */
    public function __construct(private Map $map, private ?User $viewer)
    {
        $this->design = $map->layer->design();
        $this->look = self::look($map->look, $this->design);
    }

    /** How a map's layer is drawn. */
    public static function lookOf(Map $map): Look
    {
        return self::look($map->look, $map->layer->design());
    }

    /**
     * The field that a look goes by may have left the design since; the map is then drawn by what there is.
     *
     * @param  array<string, mixed>  $document
     */
    private static function look(array $document, LayerDesign $design): Look
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
        $pegs = $this->look->classes === [] ? [$this->look->other] : array_values($this->look->classes);

        return array_map(static fn (Peg $p): array => ['head' => $p->head, 'colour' => $p->colour], array_slice($pegs, 0, 6));
    }

    /** Changes whenever the view could. */
    public function tag(): string
    {
        $layer = $this->map->layer;

        return hash('xxh128', "{$this->map->id}|{$this->map->updated_at->getTimestamp()}|{$layer->change_number}|{$layer->design_version}|".json_encode([$this->map->look, $this->map->card, $this->map->viewpoints]));
    }

    /** @return array<string, mixed> */
    public function view(): array
    {
        return [
            'title' => $this->map->title,
            'programme' => $this->map->programme->name,
            'extent' => $this->map->extent,
            'viewpoints' => $this->map->viewpoints ?? [],
            'backdrops' => Backdrops::for(Box::of(...$this->map->extent)),
            'by' => $this->look->field?->label,
            ...MapFeatures::view(Records::seenBy($this->viewer, $this->map->layer), $this->shown(), $this->look),
        ];
    }

    /** @return array<string, mixed> */
    public function features(): array
    {
        return MapFeatures::features(Records::seenBy($this->viewer, $this->map->layer), $this->shown(), $this->look);
    }

    /** @return array<string, mixed>|null the card of a record */
    public function card(string $record): ?array
    {
        try {
            $id = RecordId::of($record)->bytes();
        } catch (Refused) {
            return null;
        }
        $row = Records::seenBy($this->viewer, $this->map->layer)->where('id', $id)->first();
        if ($row === null) {
            return null;
        }
        $shown = $this->shown();
        $values = [];
        foreach ($shown->valueFields() as $field) {
            $text = StoredValue::shown($field, $row->{$field->column()} ?? null);
            if ($text !== null) {
                $values[] = ['label' => $field->label, 'kind' => $field->valueKind()->value, 'text' => $text];
            }
        }

        return [
            'id' => $record,
            'name' => Records::name($shown, $row),
            'collected_at' => Records::instant($row->collected_at),
            'values' => $values,
            'photos' => $this->map->card['photos'] ? $this->photos($id) : [],
        ];
    }

    /** A photo, if the card shows photos and it belongs to a record of this map. */
    public function photo(Attachment $photo): ?Attachment
    {
        $belongs = $photo->layer_id === $this->map->layer_id
            && Records::seenBy($this->viewer, $this->map->layer)->where('id', $photo->record_id)->exists();

        return $belongs && $this->map->card['photos'] ? $photo : null;
    }

    /** The design cut down to the card's fields; a name that the card does not show is not told either. */
    private function shown(): LayerDesign
    {
        return $this->design->only($this->map->card['fields']);
    }

    /** @return list<array{id: string, state: string}> */
    private function photos(string $record): array
    {
        return array_values(Attachment::query()->where('layer_id', $this->map->layer_id)->where('record_id', $record)->where('state', '!=', 'removed')->where('type', 'like', 'image/%')->orderBy('position')->get()
            ->map(static fn (Attachment $a): array => ['id' => $a->text(), 'state' => $a->state])->all());
    }
}
