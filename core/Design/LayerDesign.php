<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Neighbour;
use PinYard\Formula\Neighbours;
use PinYard\Formula\Type;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * The description of a layer: geometry, fields, choice lists, limits, attachments, rights. Made by {@see DesignReader}
 * from the JSON document, so an instance is always sound.
 */
final readonly class LayerDesign implements Neighbour
{
    /** @var array<array-key, Field> by key: asked for at every value of every record */
    private array $byKey;

    /** @var list<Field> all but headings */
    private array $withValues;

    /**
     * @param  list<Field>  $fields
     * @param  list<Slot>  $slots
     * @param  array<array-key, CrewRights>  $crews  rights of single crews, by name; the others have those of `$crew`
     * @param  bool  $publicSees  whether anyone with the link of a map or board may see records
     * @param  Neighbours  $neighbours  what formulas may say of other layers
     * @param  string|null  $visitsOf  title of the layer that these records are visits to
     */
    public function __construct(
        public string $title,
        public string $purpose,
        public array $fields,
        public PhotoRules $photos,
        public CrewRights $crew,
        public ?string $nameField,
        public FieldRules $rules,
        public FixRules $fix = new FixRules,
        public LayerInfo $info = new LayerInfo,
        public GeometryKind $geometry = GeometryKind::Point,
        public array $slots = [],
        public array $crews = [],
        public bool $publicSees = true,
        public ?AltitudeRules $altitude = null,
        public ?Neighbours $neighbours = null,
        public ?string $visitsOf = null,
    ) {
        $byKey = $withValues = [];
        foreach ($fields as $field) {
            $byKey[$field->key] ??= $field;
            if ($field->hasValue()) {
                $withValues[] = $field;
            }
        }
        $this->byKey = $byKey;
        $this->withValues = $withValues;
    }

    /**
     * @param  array<mixed>  $document
     *
     * @throws Refused naming every place that is off
     */
    public static function fromArray(array $document, ?Neighbours $neighbours = null): self
    {
        return DesignReader::read($document, $neighbours ?? Neighbours::none());
    }

    /**
     * The design cut down to some of its fields, for who may see no more; their conditions are not told, its rights
     * stay.
     *
     * @param  list<string>  $keys
     */
    public function showing(array $keys): self
    {
        $fields = array_values(
            array_filter($this->fields, static fn (Field $f): bool => in_array($f->key, $keys, true)),
        );
        $name = $this->nameField();
        $labels = array_intersect_key($this->rules->labels, array_flip($keys));

        return new self(
            $this->title,
            $this->purpose,
            $fields,
            $this->photos,
            $this->crew,
            $name !== null && in_array($name, $fields, true) ? $name->key : null,
            new FieldRules($keys, [], [], [], $labels),
            geometry: $this->geometry,
            publicSees: $this->publicSees,
        );
    }

    /**
     * The same design over the columns that a layer has; what the document says of them is not to be trusted.
     *
     * @param  array<string, int>  $generations  by key; 1 where it is not named
     */
    public function withGenerations(array $generations): self
    {
        $fields = array_map(
            static fn (Field $f): Field => $f->withGeneration($generations[$f->key] ?? 1),
            $this->fields,
        );

        return new self(
            title: $this->title,
            purpose: $this->purpose,
            fields: $fields,
            photos: $this->photos,
            crew: $this->crew,
            nameField: $this->nameField,
            rules: $this->rules,
            fix: $this->fix,
            info: $this->info,
            geometry: $this->geometry,
            slots: $this->slots,
            crews: $this->crews,
            publicSees: $this->publicSees,
            altitude: $this->altitude,
            neighbours: $this->neighbours,
            visitsOf: $this->visitsOf,
        );
    }

    public function field(string $key): ?Field
    {
        return $this->byKey[$key] ?? null;
    }

    public function slot(string $key): ?Slot
    {
        foreach ($this->slots as $slot) {
            if ($slot->key === $key) {
                return $slot;
            }
        }

        return null;
    }

    /** What a crew may do; null stands for people without a crew. */
    public function rightsOf(?string $crew): CrewRights
    {
        return $crew === null ? $this->crew : $this->crews[$crew] ?? $this->crew;
    }

    /**
     * The same, out of a stored document, without reading all of it.
     *
     * @param  array<mixed>  $document  as it was saved
     */
    public static function rightsIn(array $document, ?string $crew): CrewRights
    {
        $reader = new RightsReader(new DocumentReader);

        return $crew === null ? $reader->crew($document) : $reader->crews($document)[$crew] ?? $reader->crew($document);
    }

    /** The field whose value names a record: the one chosen, else the first short text, else the first. */
    public function nameField(): ?Field
    {
        if ($this->nameField !== null) {
            return $this->field($this->nameField);
        }
        foreach ($this->fields as $field) {
            if ($field->kind === FieldKind::ShortText) {
                return $field;
            }
        }

        return $this->valueFields()[0] ?? null;
    }

    /** @return list<Field> all but headings */
    public function valueFields(): array
    {
        return $this->withValues;
    }

    /** @return list<Field> fields of one choice */
    public function choiceFields(): array
    {
        return array_values(
            array_filter($this->fields, static fn (Field $f): bool => $f->kind === FieldKind::OneChoice),
        );
    }

    /** @return array<string, mixed> the JSON document, in its published form */
    public function toArray(): array
    {
        return array_filter(
            [
                'title' => $this->title,
                'purpose' => $this->purpose,
                'geometry' => $this->geometry->value,
                'visits_of' => $this->visitsOf,
                'name_field' => $this->nameField,
                'fields' => array_map(static fn (Field $f): array => $f->toArray(), $this->fields),
                'photos' => $this->photos->toArray(),
                'slots' => $this->slots === [] ? null
                    : array_map(static fn (Slot $s): array => $s->toArray(), $this->slots),
                'rights' => ['crew' => $this->crew->toArray()] +
                    ($this->crews === []
                        ? []
                        : [
                            'crews' => array_map(
                                static fn (int|string $name, CrewRights $r): array => ['crew' => (string) $name] +
                                    $r->toArray(),
                                array_keys($this->crews),
                                $this->crews,
                            ),
                        ]) +
                    ($this->publicSees ? [] : ['public' => ['see' => false]]),
                'fix' => $this->fix->toArray() ?: null,
                'altitude' => $this->altitude?->toArray(),
                'info' => $this->info->toArray() ?: null,
            ],
            static fn (mixed $v): bool => $v !== null,
        );
    }

    public function title(): string
    {
        return $this->title;
    }

    public function nameKey(): ?string
    {
        return $this->nameField()?->key;
    }

    public function typesForOthers(): array
    {
        $types = [];
        foreach ($this->valueFields() as $field) {
            $type = $field->valueKind()->type();
            if ($type !== null && $type !== Type::Choices) {
                // The code of a choice, as a text: labels belong to the layer's own design.
                $types[$field->key] = $type === Type::Choice ? Type::Text : $type;
            }
        }

        return $types;
    }
}
