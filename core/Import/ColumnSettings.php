<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Design\FieldKind;

/** What becomes of one column of a table. */
final readonly class ColumnSettings
{
    /**
     * @param  string  $key  of the field that it fills; in an existing layer one that is there
     * @param  'ymd'|'dmy'|'mdy'|null  $order  of dates
     * @param  bool  $comma  the decimal sign
     * @param  int|null  $with  column of times that is joined to this one of dates
     */
    private function __construct(
        public bool $take,
        public string $key,
        public string $label,
        public FieldKind $kind,
        public ?string $order,
        public bool $comma,
        public ?int $with,
    ) {
    }

    /** @param  array<mixed>  $d */
    public static function of(array $d, int $i): self
    {
        $kind = FieldKind::tryFrom(is_string($d['kind'] ?? null) ? $d['kind'] : '') ?? FieldKind::ShortText;

        return new self(
            ($d['take'] ?? false) === true && $kind !== FieldKind::Calculated && $kind !== FieldKind::Heading,
            is_string($d['key'] ?? null) && $d['key'] !== '' ? $d['key'] : 'column_'.($i + 1),
            is_string($d['label'] ?? null) && trim($d['label']) !== ''
                ? trim($d['label'])
                : 'Column '.HeadRow::letter($i),
            $kind,
            in_array($d['order'] ?? null, DateText::ORDERS, true) ? $d['order'] : null,
            ($d['comma'] ?? false) === true,
            is_int($d['with'] ?? null) ? $d['with'] : null,
        );
    }

    /** @return array<string, mixed> as {@see of()} reads it */
    public function toArray(): array
    {
        return [
            'take' => $this->take,
            'key' => $this->key,
            'label' => $this->label,
            'kind' => $this->kind->value,
            'order' => $this->order,
            'comma' => $this->comma,
            'with' => $this->with,
        ];
    }
}
