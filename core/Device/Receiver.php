<?php

declare(strict_types=1);

namespace PinYard\Device;

/**
 * Puts the sentences of a receiver together to fixes: GGA says where, how and with how many satellites, GST how far
 * off, RMC the day, GSA whether it knows the height. A fix comes out with each GGA that has one.
 */
final class Receiver
{
    /**
     * Quality of a fix in GGA; common practice, no source: 1 is a plain one, 2 a corrected one, 4 and 5 are of
     * real-time kinematics.
     */
    private const TYPES = [1 => '3d', 2 => 'dgnss', 3 => '3d', 4 => 'rtk_fixed', 5 => 'rtk_float'];

    /** Metres for one of HDOP where the receiver tells no errors; common practice, no source. */
    private const METRES_PER_HDOP = 4.0;

    private string $rest = '';

    private ?string $date = null;

    private ?float $error = null;

    private bool $flat = false;

    /**
     * @param  string  $bytes  as they come, sentences cut anywhere
     * @return list<array{lon: float, lat: float, altitude: float|null, accuracy: float|null, satellites: int|null,
     *     type: string, at: string|null}>
     */
    public function feed(string $bytes): array
    {
        $lines = preg_split('/\r\n|\n|\r/', $this->rest.$bytes) ?: [];
        $this->rest = substr((string) array_pop($lines), -1_000);
        $fixes = [];
        foreach ($lines as $line) {
            $fix = $this->take($line);
            if ($fix !== null) {
                $fixes[] = $fix;
            }
        }

        return $fixes;
    }

    /**
     * @return array{lon: float, lat: float, altitude: float|null, accuracy: float|null, satellites: int|null,
     *     type: string, at: string|null}|null
     */
    private function take(string $line): ?array
    {
        $sentence = Sentence::read($line);
        if ($sentence === null) {
            return null;
        }
        match ($sentence->kind) {
            'RMC' => ($this->date =
                preg_match('/^\d{6}$/D', $sentence->field(8)) === 1 ? $sentence->field(8) : $this->date),
            'GST' => ($this->error =
                $sentence->number(5) === null || $sentence->number(6) === null
                    ? null
                    : hypot($sentence->number(5), $sentence->number(6))),
            'GSA' => ($this->flat = $sentence->field(1) === '2'),
            default => null,
        };

        return $sentence->kind === 'GGA' ? $this->fix($sentence) : null;
    }

    /**
     * @return array{lon: float, lat: float, altitude: float|null, accuracy: float|null, satellites: int|null,
     *     type: string, at: string|null}|null
     */
    private function fix(Sentence $gga): ?array
    {
        $type = self::TYPES[(int) $gga->field(5)] ?? null;
        [$lat, $lon] = [$gga->degrees(1), $gga->degrees(3)];
        if ($type === null || $lat === null || $lon === null) {
            return null;
        }
        $hdop = $gga->number(7);
        $satellites = $gga->number(6);

        return [
            'lon' => $lon,
            'lat' => $lat,
            'altitude' => $this->flat ? null : $gga->number(8),
            'accuracy' => $this->error ?? ($hdop === null ? null : $hdop * self::METRES_PER_HDOP),
            'satellites' => $satellites === null ? null : (int) $satellites,
            'type' => $this->flat && $type === '3d' ? '2d' : $type,
            'at' => $this->instant($gga->field(0)),
        ];
    }

    /** The day of RMC with the time of GGA, in UTC; null before a day is known. */
    private function instant(string $time): ?string
    {
        if ($this->date === null || preg_match('/^(\d\d)(\d\d)(\d\d)(\.\d+)?$/D', $time, $t) !== 1) {
            return null;
        }
        [$day, $month, $year] = str_split($this->date, 2);
        // Two digits of a year; satellites have told the time since 1980.
        $year = ((int) $year >= 80 ? 1900 : 2000) + (int) $year;

        return checkdate((int) $month, (int) $day, $year) && $t[1] < 24 && $t[2] < 60 && $t[3] < 61
            ? sprintf('%d-%s-%sT%s:%s:%sZ', $year, $month, $day, $t[1], $t[2], $t[3])
            : null;
    }
}
