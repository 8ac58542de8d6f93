<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;
use PinYard\Refused;

/**
 * One thing that a person did on a phone, as it arrives: ids and shape are checked, values and place are not yet (that
 * needs the design).
 */
final readonly class Operation
{
    /** Seconds: below that the way through the network may be the reason; beyond that (ten years) no clock is meant. */
    private const CLOCK_OFF_LEAST = 30;

    private const CLOCK_OFF_MOST = 315_576_000;

    /**
     * @param  \DateTimeImmutable  $capturedAt  in UTC, the phone's clock corrected by what was known of its error
     * @param  array<mixed>  $values  all of a record that is added, else only what was changed
     * @param  list<mixed>  $photos  files that it announces, photos and those for slots
     * @param  Fix  $fix  what the receiver said
     * @param  float|null  $altitude  metres
     * @param  bool  $hasAltitude  whether the altitude was changed, of a record that was there
     * @param  RecordId|null  $visited  the record that this one is a visit to
     * @param  int  $base  version of the record that it began from; 0 for one that is added
     * @param  array<mixed>  $was  what the changed values replaced
     * @param  mixed  $wasGeometry  GeoJSON of the place that a move replaced
     * @param  int  $clockOff  seconds by which the phone's clock was behind; 0 when that is nothing to speak of
     * @param  int  $visitsKnown  of a deletion: the change number of the layer of visits up to which its person had
     *     been told; 0 where that was not said
     * @param  array{float|null}|null  $wasAltitude  metres that a change of the altitude replaced, where that was said
     */
    private function __construct(
        public RecordId $op,
        public Kind $kind,
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
        public bool $hasAltitude,
        public ?RecordId $visited,
        public int $base,
        public array $was,
        public mixed $wasGeometry,
        public int $clockOff,
        public int $visitsKnown,
        public ?array $wasAltitude,
    ) {
    }

    /**
     * @param  PhoneClock|null  $clock  what the moment of sending tells of the phone's clock
     *
     * @throws Refused
     */
    public static function read(mixed $in, mixed $device, ?PhoneClock $clock = null): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', null, is_scalar($in) ? $in : null);
        }
        $op = RecordId::of($in['op'] ?? null, 'op');
        $kind = is_string($in['kind'] ?? null) ? Kind::tryFrom($in['kind']) : null;
        if ($kind === null) {
            throw Refused::because('op_kind', 'kind', is_scalar($in['kind'] ?? null) ? $in['kind'] : null);
        }
        foreach (
            ['seq' => 0, 'layer' => 0, 'design' => 0, ...$kind->adds() ? [] : ['base' => 1]] as $number => $least
        ) {
            if (! is_int($in[$number] ?? null) || $in[$number] < $least) {
                throw Refused::because('op_number', $number, is_scalar($in[$number] ?? null) ? $in[$number] : null);
            }
        }
        $values = $in['values'] ?? ($kind->adds() ? null : []);
        $was = $in['was'] ?? [];
        if (! is_array($values) || (array_is_list($values) && $values !== [])) {
            throw Refused::because('op_values', 'values');
        }
        if (! is_array($was) || (array_is_list($was) && $was !== [])) {
            throw Refused::because('op_values', 'was');
        }
        $photos = $in['photos'] ?? [];
        if (! is_array($photos) || ! array_is_list($photos)) {
            throw Refused::because('must_be_list', 'photos');
        }

        $off = self::clockOff($in['clock_off'] ?? null);
        $captured = self::instant($in['captured_at'] ?? null);
        $heard = isset($in['heard_at']) ? self::instant($in['heard_at']) : null;
        $off = $clock?->behindAt($captured, $off, $heard) ?? $off;
        if ($off !== 0) {
            $captured = $captured->modify("$off seconds");
        }

        return new self(
            op: $op,
            kind: $kind,
            device: $device instanceof RecordId ? $device : RecordId::of($device, 'device'),
            seq: $in['seq'],
            layer: $in['layer'],
            design: $in['design'],
            record: RecordId::of($in['record'] ?? null, 'record'),
            capturedAt: $captured,
            values: $values,
            geometry: $in['geometry'] ?? null,
            photos: $photos,
            fix: Fix::read($in['fix'] ?? null),
            altitude: self::altitude($in['altitude'] ?? null),
            hasAltitude: array_key_exists('altitude', $in),
            visited: isset($in['visited']) ? RecordId::of($in['visited'], 'visited') : null,
            base: $kind->adds() || ! is_int($in['base'] ?? null) ? 0 : $in['base'],
            was: $was,
            wasGeometry: $in['was_geometry'] ?? null,
            clockOff: $off,
            visitsKnown: is_int($in['visits_known'] ?? null) ? max(0, $in['visits_known']) : 0,
            wasAltitude: array_key_exists('was_altitude', $in) ? [self::altitude($in['was_altitude'])] : null,
        );
    }

    /** Seconds by which a phone knows its clock to be behind the server's; what makes no sense counts for nothing. */
    private static function clockOff(mixed $seconds): int
    {
        $off = is_int($seconds) || is_float($seconds) ? (int) round(max(-1e9, min(1e9, $seconds))) : 0;

        return abs($off) >= self::CLOCK_OFF_LEAST && abs($off) <= self::CLOCK_OFF_MOST ? $off : 0;
    }

    private static function utc(): \DateTimeZone
    {
        /** @var \DateTimeZone|null $utc */
        static $utc;

        return $utc ??= new \DateTimeZone('UTC');
    }

    /** @throws Refused */
    private static function instant(mixed $text): \DateTimeImmutable
    {
        // RFC 3339, section 5.6, as JavaScript's toISOString writes it; the offset must be there.
        if (
            ! is_string($text) ||
            preg_match('/^[1-9]\d{3}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?(Z|[+-]\d\d:\d\d)$/D', $text) !== 1
        ) {
            throw Refused::because('op_instant', 'captured_at', is_scalar($text) ? $text : null);
        }
        try {
            // Phones write UTC; with the zone told apart from it PHP reads it eight times as quickly.
            return str_ends_with($text, 'Z')
                ? new \DateTimeImmutable(substr($text, 0, -1), self::utc())
                : (new \DateTimeImmutable($text))->setTimezone(self::utc());
        } catch (\Exception) {
            throw Refused::because('op_instant', 'captured_at', $text);
        }
    }

    /** Metres: what the person said, else what the receiver told, where the layer keeps it. */
    public function altitudeFor(LayerDesign $design): ?float
    {
        $keeps = $design->altitude !== null || $design->fix->keeps('altitude');

        return $keeps ? $this->altitude ?? $this->fix->altitude : null;
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
