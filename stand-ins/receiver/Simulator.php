<?php

declare(strict_types=1);

namespace StandIns\Receiver;

use PinYard\Device\Sentence;
use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * A receiver that is walked along a way: it drifts by a random walk, tells how far off it may be, loses its fix now and
 * then.
 */
final class Simulator
{
    /** Degrees of a step at walking pace, some 1.2 metres. */
    private const STEP = 0.000011;

    private const METRE = 1 / 111_320;

    private readonly Randomizer $dice;

    private float $along = 0;

    /** @var array{float, float} metres east and north that it is off */
    private array $drift = [0.0, 0.0];

    private int $lost = 0;

    /** @param  non-empty-list<array{float, float}>  $way */
    public function __construct(private readonly array $way, int $seed)
    {
        $this->dice = new Randomizer(new Mt19937($seed));
    }

    /** The sentences of one second. */
    public function next(\DateTimeImmutable $at): string
    {
        $this->along += self::STEP;
        $roll = fn (): float => $this->dice->getInt(-100, 100) / 100;
        $this->drift = [0.97 * $this->drift[0] + 0.5 * $roll(), 0.97 * $this->drift[1] + 0.5 * $roll()];
        $this->lost =
            $this->lost > 0 ? $this->lost - 1 : ($this->dice->getInt(1, 60) === 1 ? $this->dice->getInt(3, 12) : 0);
        $time = $at->format('His.00');
        if ($this->lost > 0) {
            return Sentence::write('RMC', [$time, 'V', '', '', '', '', '', '', $at->format('dmy'), '', '', 'N']).
                "\r\n".
                Sentence::write('GGA', [$time, '', '', '', '', '0', '02', '', '', 'M', '', 'M', '', '']).
                "\r\n";
        }
        [$lon, $lat] = $this->place();
        [$lon, $lat] = [
            $lon + ($this->drift[0] * self::METRE) / cos(deg2rad($lat)),
            $lat + $this->drift[1] * self::METRE,
        ];
        $error = 1.5 + hypot(...$this->drift) + abs($roll());
        $where = [...self::minutes($lat, 2, 'N', 'S'), ...self::minutes($lon, 3, 'E', 'W')];

        return implode("\r\n", [
            Sentence::write('RMC', [$time, 'A', ...$where, '2.3', '45.0', $at->format('dmy'), '', '', 'A']),
            Sentence::write('GSA', [
                'A',
                '3',
                '04',
                '05',
                '09',
                '12',
                '24',
                '25',
                '29',
                '',
                '',
                '',
                '',
                '',
                '1.8',
                '0.9',
                '1.5',
            ]),
            Sentence::write('GST', [
                $time,
                '1.0',
                '',
                '',
                '',
                sprintf('%.2f', $error / M_SQRT2),
                sprintf('%.2f', $error / M_SQRT2),
                sprintf('%.2f', 2 * $error),
            ]),
            Sentence::write('GGA', [
                $time,
                ...$where,
                '1',
                sprintf('%02d', $this->dice->getInt(7, 14)),
                '0.9',
                sprintf('%.1f', 2 + $roll()),
                'M',
                '18.0',
                'M',
                '',
                '',
            ]),
        ])."\r\n";
    }

    /** @return array{float, float} there and back along the way, for ever */
    private function place(): array
    {
        $lengths = [];
        for ($i = 1; $i < count($this->way); $i++) {
            $lengths[] = hypot($this->way[$i][0] - $this->way[$i - 1][0], $this->way[$i][1] - $this->way[$i - 1][1]);
        }
        $whole = max(1e-9, (float) array_sum($lengths));
        $left = fmod($this->along, 2 * $whole);
        $left = $left > $whole ? 2 * $whole - $left : $left;
        foreach ($lengths as $i => $length) {
            if ($left <= $length && $length > 0) {
                return [
                    $this->way[$i][0] + (($this->way[$i + 1][0] - $this->way[$i][0]) * $left) / $length,
                    $this->way[$i][1] + (($this->way[$i + 1][1] - $this->way[$i][1]) * $left) / $length,
                ];
            }
            $left -= $length;
        }

        return $this->way[count($this->way) - 1];
    }

    /** @return array{string, string} */
    private static function minutes(float $degrees, int $digits, string $plus, string $minus): array
    {
        $whole = (int) floor(abs($degrees));

        return [sprintf("%0{$digits}d%08.5f", $whole, (abs($degrees) - $whole) * 60), $degrees < 0 ? $minus : $plus];
    }
}
