<?php

declare(strict_types=1);

namespace PinYard\Device;

/**
 * One sentence of a receiver in the open form of NMEA 0183: `$`, talker and kind, fields parted by commas, `*`,
 * checksum. The checksum is the exclusive or of all bytes between `$` and `*`, as two hexadecimal digits.
 */
final readonly class Sentence
{
    /** Bytes; longer lines are noise. The standard says 82, receivers of today exceed it. */
    private const LONGEST = 200;

    /** @param  list<string>  $fields  after the kind */
    private function __construct(public string $kind, public array $fields)
    {
    }

    /** Null for what is no sentence, or one that was bent on its way. */
    public static function read(string $line): ?self
    {
        $line = trim($line);
        if (
            strlen($line) > self::LONGEST ||
            preg_match('/^[$!]([A-Z]{2}|P)([A-Z]{3}),([^*]*)\*([0-9A-Fa-f]{2})$/D', $line, $m) !== 1
        ) {
            return null;
        }

        return self::checksum(substr($line, 1, -3)) === strtoupper($m[4]) ? new self($m[2], explode(',', $m[3])) : null;
    }

    /** @param  list<string>  $fields */
    public static function write(string $kind, array $fields): string
    {
        $body = "GN$kind,".implode(',', $fields);

        return "\$$body*".self::checksum($body);
    }

    public function field(int $at): string
    {
        return $this->fields[$at] ?? '';
    }

    public function number(int $at): ?float
    {
        return preg_match('/^-?\d+(\.\d*)?$/D', $this->field($at)) === 1 ? (float) $this->field($at) : null;
    }

    /** Degrees of a field pair such as `4807.038,N`: the last two digits before the point begin the minutes. */
    public function degrees(int $at): ?float
    {
        if (
            preg_match('/^(\d{1,3}?)(\d{2}(?:\.\d+)?)$/D', $this->field($at), $m) !== 1 ||
            (float) $m[2] >= 60 ||
            ! in_array($this->field($at + 1), ['N', 'S', 'E', 'W'], true)
        ) {
            return null;
        }
        $degrees = (int) $m[1] + (float) $m[2] / 60;
        $most = in_array($this->field($at + 1), ['N', 'S'], true) ? 90 : 180;

        return $degrees > $most ? null : (in_array($this->field($at + 1), ['S', 'W'], true) ? -$degrees : $degrees);
    }

    private static function checksum(string $body): string
    {
        $sum = 0;
        for ($i = 0; $i < strlen($body); $i++) {
            $sum ^= ord($body[$i]);
        }

        return sprintf('%02X', $sum);
    }
}
