<?php

declare(strict_types=1);

namespace StandIns\Phones;

/** A simulated crew member on a beach: a phone, a way, and whether there is signal just now. */
final class Walker
{
    public bool $signal = true;

    public int $made = 0;

    /**
     * @var list<array{int, float, float, int}> points that are not shared yet: milliseconds, longitude, latitude,
     *     metres
     */
    private array $trail = [];

    /**
     * @param  list<array{float, float}>  $way
     * @param  array<string, mixed>  $nests  the layer that records go to, as the pack has it
     */
    public function __construct(
        public readonly Phone $phone,
        private readonly array $way,
        public readonly array $nests,
        private readonly int $programme,
    ) {
    }

    /** @return array{float, float} where the walker is after a part of the way */
    public function at(int $step, int $steps): array
    {
        return $this->way[min(count($this->way) - 1, intdiv($step * count($this->way), $steps))];
    }

    public function passes(float $at, float $lon, float $lat, int $accuracy): void
    {
        $this->trail[] = [(int) round($at * 1000), $lon, $lat, $accuracy];
    }

    /** Sends what there is, if there is signal. */
    public function sync(): void
    {
        if (! $this->signal) {
            return;
        }
        $this->phone->round();
        $this->phone->sendFiles();
        if ($this->trail !== []) {
            $this->phone->line->send('POST', "api/v1/programmes/{$this->programme}/trails", [
                'device' => $this->phone->device,
                'points' => $this->trail,
                'battery' => 70,
            ]);
            $this->trail = [];
        }
    }
}
