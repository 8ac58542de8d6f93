<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;
use PinYard\Refused;

/**
 * One thing that a person did on a phone, as it arrives: ids and shape are checked,
 * values and place are not yet (that needs the design).
 */
final readonly class Operation
{
    /**
     * @param  array<mixed>  $values
     * @param  list<mixed>  $photos  files that it announces, photos and those for slots
     * @param  Fix  $fix  what the receiver said
     * @param  float|null  $altitude  metres
     * @param  RecordId|null  $visited  the record that this one is a visit to
     */
    private function __construct(
        public RecordId $op,
        public RecordId $device,
        public int $seq,
        public int $layer,
        public int $design,
        public RecordId $record,
        public \DateTimeImmutable $capturedAt,
        public array $values,
        public mixed $geometry,
        public array $photos,
        public Fix $fix,
        public ?float $altitude,
        public ?RecordId $visited,
    ) {
    }

    /** @throws Refused */
    public static function read(mixed $in, mixed $device): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', null, is_scalar($in) ? $in : null);
        }
        $op = RecordId::of($in['op'] ?? null, 'op');
        if (($in['kind'] ?? null) !== 'add') {
            throw Refused::because('op_kind', 'kind', is_scalar($in['kind'] ?? null) ? $in['kind'] : null);
        }
        foreach (['seq', 'layer', 'design'] as $number) {
            if (! is_int($in[$number] ?? null) || $in[$number] < 0) {
                throw Refused::because('op_number', $number, is_scalar($in[$number] ?? null) ? $in[$number] : null);
            }
        }
        if (! is_array($in['values'] ?? null) || array_is_list($in['values']) && $in['values'] !== []) {
            throw Refused::because('op_values', 'values');
        }
        $photos = $in['photos'] ?? [];
        if (! is_array($photos) || ! array_is_list($photos)) {
            throw Refused::because('must_be_list', 'photos');
        }

        return new self(
            $op,
            RecordId::of($device, 'device'),
            $in['seq'],
            $in['layer'],
            $in['design'],
            RecordId::of($in['record'] ?? null, 'record'),
            self::instant($in['captured_at'] ?? null),
            $in['values'],
            $in['geometry'] ?? null,
            $photos,
            Fix::read($in['fix'] ?? null),
            self::altitude($in['altitude'] ?? null),
            isset($in['visited']) ? RecordId::of($in['visited'], 'visited') : null,
        );
    }

    /** @throws Refused */
    private static function instant(mixed $text): \DateTimeImmutable
    {
        // RFC 3339, section 5.6, as JavaScript's toISOString writes it; the offset must be there.
        if (! is_string($text) || preg_match('/^[1-9]\d{3}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?(Z|[+-]\d\d:\d\d)$/D', $text) !== 1) {
            throw Refused::because('op_instant', 'captured_at', is_scalar($text) ? $text : null);
        }
        try {
            return (new \DateTimeImmutable($text))->setTimezone(new \DateTimeZone('UTC'));
        } catch (\Exception) {
            throw Refused::because('op_instant', 'captured_at', $text);
        }
    }

    /** Metres: what the person said, else what the receiver told, where the layer keeps it. */
    public function altitudeFor(LayerDesign $design): ?float
    {
        $keeps = $design->altitude !== null || $design->fix->keeps('altitude');

        return $keeps ? ($this->altitude ?? $this->fix->altitude) : null;
    }

    /** @throws Refused */
    private static function altitude(mixed $in): ?float
    {
        if ($in !== null && ! is_int($in) && ! is_float($in)) {
            throw Refused::because('altitude_number', 'altitude', is_scalar($in) ? $in : null);
        }

        return $in === null ? null : (float) $in;
    }
}
