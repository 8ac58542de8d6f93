<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Carto\Style\StyleLayers;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Problem;
use PinYard\Refused;

/** One layer of a map: which records, how they are drawn and labelled, what their card tells. */
final readonly class LayerOnMap
{
    /** More layers on one map than anybody can tell apart; and each is asked for at every view. */
    public const MOST = 40;

    public const LONGEST_TITLE = 80;

    private const FAINTEST = 0.1;

    /**
     * @param  int  $layer  number of the layer
     * @param  string|null  $title  what it is called on this map; null: as the layer is called
     * @param  list<string>  $fields  keys of what the card tells
     * @param  bool  $photos  whether the card shows photos
     * @param  CardText  $text  the sentences that the card begins with
     * @param  CardChart|null  $chart  numbers that the card draws
     * @param  CardVisits|null  $visits  what it tells of visits; null: nothing
     * @param  int|null  $slice  number of the slice; null: all records
     * @param  float  $opacity  0.1 to 1
     * @param  bool  $visible  whether it is drawn when the map opens
     */
    private function __construct(
        public string $id,
        public int $layer,
        public ?string $title,
        public Look $look,
        public array $fields,
        public bool $photos,
        public CardText $text,
        public ?CardChart $chart,
        public ?CardVisits $visits,
        public ?Label $label,
        public ?int $slice,
        public float $opacity,
        public ZoomRange $zoom,
        public bool $visible,
        public bool $inLegend,
    ) {
    }

    /** A layer as it first comes to a map: a look by its first choice field, a card with all fields. */
    public static function suggest(string $id, int $layer, LayerDesign $design): self
    {
        return self::from(
            ['id' => $id],
            $layer,
            $design,
            Look::suggest($design),
            CardText::stored(null, $design),
            null,
            ZoomRange::all(),
        );
    }

    /**
     * Reads `{id?, layer, title?, look?, card?: {fields, photos, text?, chart?, visits?}, label?, slice?,
     * opacity?, zoom?, visible?, in_legend?}`; what is left out is as it first comes.
     *
     * @param  array<mixed>  $in
     * @param  string  $at  JSON pointer without its first slash
     * @param  (callable(int): ?LayerDesign)|null  $others  designs of the layers that its look may count, by number
     *
     * @throws Refused
     */
    public static function read(
        array $in,
        int $layer,
        LayerDesign $design,
        string $at,
        ?callable $others = null,
    ): self {
        $title = $in['title'] ?? null;
        if ($title !== null && (! is_string($title) || mb_strlen($title) > self::LONGEST_TITLE)) {
            throw Refused::because('layer_on_map_title', "$at/title", is_scalar($title) ? $title : null, [
                'most' => self::LONGEST_TITLE,
            ]);
        }
        $opacity = $in['opacity'] ?? 1;
        if (! is_int($opacity) && ! is_float($opacity) || ! ($opacity >= self::FAINTEST && $opacity <= 1)) {
            throw Refused::because('layer_opacity', "$at/opacity", is_scalar($opacity) ? $opacity : null);
        }
        foreach (['visible', 'in_legend'] as $yes) {
            if (! is_bool($in[$yes] ?? true)) {
                throw Refused::because('must_be_yes_no', "$at/$yes");
            }
        }

        if (is_array($in['card'] ?? null) && isset($in['card']['chart'])) {
            CardChart::read($in['card']['chart'], $design, "$at/card/chart");
        }
        if (is_array($in['card'] ?? null) && isset($in['card']['visits'])) {
            CardVisits::read($in['card']['visits'], "$at/card/visits");
        }

        return self::from(
            $in,
            $layer,
            $design,
            isset($in['look']) ? self::look($in['look'], $design, $at, $others) : Look::suggest($design),
            is_array($in['card'] ?? null) && isset($in['card']['text'])
                ? CardText::read($in['card']['text'], $design, "$at/card/text")
                : CardText::stored(null, $design),
            isset($in['label']) ? Label::read($in['label'], $design, "$at/label") : null,
            isset($in['zoom']) ? ZoomRange::read($in['zoom'], "$at/zoom") : ZoomRange::all(),
        );
    }

    /**
     * @param  (callable(int): ?LayerDesign)|null  $others
     *
     * @throws Refused naming the look of this layer of several
     */
    private static function look(mixed $in, LayerDesign $design, string $at, ?callable $others): Look
    {
        try {
            return Look::read($in, $design, $others);
        } catch (Refused $e) {
            throw Refused::for(array_map(
                static fn (Problem $p): Problem => new Problem($p->code, "$at/$p->field", $p->value, $p->params),
                $e->problems,
            ));
        }
    }

    /**
     * One that was read before and is stored. Fields may have left the design since: then it is drawn by what there
     * is, and has no label.
     *
     * @param  array<string, mixed>  $in
     * @param  (callable(int): ?LayerDesign)|null  $others  designs of the layers that its look may count, by number
     */
    public static function stored(array $in, LayerDesign $design, ?callable $others = null): self
    {
        $drawn = is_array($in['look'] ?? null) ? $in['look'] : [];
        $look = null;
        // The sizes may have left, or what is summed, or the colours with all else.
        foreach ([[], ['gather' => 1], ['size' => 1], ['size' => 1, 'gather' => 1]] as $left) {
            try {
                $look ??= Look::read(array_diff_key($drawn, $left), $design, $others);
            } catch (Refused) {
                continue;
            }
        }
        $look ??= Look::suggest($design);
        try {
            $label = isset($in['label']) ? Label::read($in['label'], $design, 'label') : null;
        } catch (Refused) {
            $label = null;
        }

        return self::from(
            $in,
            is_int($in['layer'] ?? null) ? $in['layer'] : throw new \LogicException('a part without its layer'),
            $design,
            $look,
            CardText::stored(is_array($in['card'] ?? null) ? $in['card']['text'] ?? null : null, $design),
            $label,
            isset($in['zoom']) ? ZoomRange::read($in['zoom'], 'zoom') : ZoomRange::all(),
        );
    }

    /** With one mark for all. */
    public function uncoloured(): self
    {
        return $this->looking($this->look->uncoloured());
    }

    /** Of areas that are coloured by records: with at least so many of them to each. */
    public function withLeast(int $least): self
    {
        return $this->looking($this->look->withLeast($least));
    }

    private function looking(Look $look): self
    {
        return new self(
            $this->id,
            $this->layer,
            $this->title,
            $look,
            $this->fields,
            $this->photos,
            $this->text,
            $this->chart,
            $this->visits,
            $this->label,
            $this->slice,
            $this->opacity,
            $this->zoom,
            $this->visible,
            $this->inLegend,
        );
    }

    /** @param  array<mixed>  $in */
    private static function from(
        array $in,
        int $layer,
        LayerDesign $design,
        Look $look,
        CardText $text,
        ?Label $label,
        ZoomRange $zoom,
    ): self {
        $all = array_map(static fn (Field $f): string => $f->key, $design->valueFields());
        $card = is_array($in['card'] ?? null) ? $in['card'] : [];
        $title = is_string($in['title'] ?? null) ? trim($in['title']) : '';

        return new self(
            id: is_string($in['id'] ?? null) && preg_match('/\A[a-z][a-z0-9]{3,15}\z/', $in['id']) === 1
                ? $in['id']
                : self::newId(),
            layer: $layer,
            title: $title === '' ? null : $title,
            look: $look,
            fields: is_array($card['fields'] ?? null)
                ? array_values(array_filter($all, static fn (string $k): bool => in_array($k, $card['fields'], true)))
                : $all,
            photos: ($card['photos'] ?? true) === true,
            text: $text,
            chart: CardChart::stored($card['chart'] ?? null, $design),
            visits: CardVisits::stored($card['visits'] ?? null),
            label: $label,
            slice: is_int($in['slice'] ?? null) ? $in['slice'] : null,
            opacity: is_int($in['opacity'] ?? null) || is_float($in['opacity'] ?? null) ? (float) $in['opacity'] : 1.0,
            zoom: $zoom,
            visible: ($in['visible'] ?? true) === true,
            inLegend: ($in['in_legend'] ?? true) === true,
        );
    }

    /** A letter first: as a key of an array it must not turn into a number. */
    public static function newId(): string
    {
        return 'l'.substr(bin2hex(random_bytes(4)), 1);
    }

    /**
     * What is drawn, without the marks: two that carry the same need the same features, whatever they look like.
     *
     * @return array<string, mixed>
     */
    public function carries(): array
    {
        return [
            'layer' => $this->layer,
            'slice' => $this->slice,
            'look' => $this->look->carries(),
            'label' => $this->label?->parts,
        ];
    }

    /**
     * @param  string  $source  name of the source in the style
     * @return list<array<string, mixed>> layers of a map style, the lowest first
     */
    public function style(string $source): array
    {
        return StyleLayers::of($this->look, $source, $this->opacity, $this->zoom, $this->label);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'id' => $this->id,
            'layer' => $this->layer,
            'title' => $this->title,
            'look' => $this->look->toArray(),
            'card' => ['fields' => $this->fields, 'photos' => $this->photos] +
                ($this->text->lines === [] ? [] : ['text' => $this->text->toArray()]) +
                ($this->chart === null ? [] : ['chart' => $this->chart->toArray()]) +
                ($this->visits === null ? [] : ['visits' => $this->visits->toArray()]),
            'label' => $this->label?->toArray(),
            'slice' => $this->slice,
            'opacity' => $this->opacity,
            'zoom' => $this->zoom->toArray(),
            'visible' => $this->visible,
            'in_legend' => $this->inLegend,
        ];
    }
}
