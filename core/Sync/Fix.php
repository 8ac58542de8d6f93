<?php

declare(strict_types=1);

namespace PinYard\Sync;

/** What a receiver said of a place: a detail that makes no sense is left out, never a reason to refuse a record. */
final readonly class Fix
{
    /** Kinds of fix: none needed more than a word, so they are the common ones of receivers. */
    private const TYPES = ['2d', '3d', 'dgnss', 'rtk_float', 'rtk_fixed'];

    /**
     * @param  float|null  $accuracy  metres
     * @param  float|null  $altitude  metres
     * @param  string|null  $at  RFC 3339, in UTC
     */
    private function __construct(
        public ?float $accuracy,
        public ?float $altitude,
        public ?int $satellites,
        public ?string $type,
        public ?string $at,
    ) {
    }

    public static function read(mixed $in): self
    {
        $in = is_array($in) ? $in : [];
        $number = static fn (mixed $v, float $low, float $high): ?float => (is_int($v) || is_float($v)) &&
        $v >= $low &&
        $v < $high
            ? (float) $v
            : null;
        $satellites = $number($in['satellites'] ?? null, 0, 1_000);
        $type = $in['type'] ?? null;

        return new self(
            $number($in['accuracy'] ?? null, 0, 1e7),
            $number($in['altitude'] ?? null, -12_000, 100_000),
            $satellites === null ? null : (int) $satellites,
            is_string($type) && in_array($type, self::TYPES, true) ? $type : null,
            self::instant($in['at'] ?? null),
        );
    }

    private static function instant(mixed $text): ?string
    {
        if (
            ! is_string($text) ||
            preg_match('/^[1-9]\d{3}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?(Z|[+-]\d\d:\d\d)$/D', $text) !== 1
        ) {
            return null;
        }
        try {
            return (new \DateTimeImmutable($text))->setTimezone(new \DateTimeZone('UTC'))->format('Y-m-d\TH:i:s\Z');
        } catch (\Exception) {
            return null;
        }
    }
}
