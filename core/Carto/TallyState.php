<?php

declare(strict_types=1);

namespace PinYard\Carto;

/** What is known of the records in one area: enough for every measure. */
final class TallyState
{
    public int $records = 0;

    /** Records with a value of the measured field. */
    public int $known = 0;

    public float $sum = 0.0;

    public ?float $least = null;

    public ?float $most = null;

    /** Records that are in the slice whose share is told. */
    public int $share = 0;

    public function add(?float $value): void
    {
        $this->records++;
        if ($value !== null) {
            $this->known++;
            $this->sum += $value;
            $this->least = $this->least === null ? $value : min($this->least, $value);
            $this->most = $this->most === null ? $value : max($this->most, $value);
        }
    }

    /** @return array{int, int, float, float|null, float|null, int} */
    public function toArray(): array
    {
        return [$this->records, $this->known, $this->sum, $this->least, $this->most, $this->share];
    }

    /** @param  array{int, int, int|float, int|float|null, int|float|null, int}  $in */
    public static function fromArray(array $in): self
    {
        $state = new self();
        [$state->records, $state->known, $state->sum, $state->least, $state->most, $state->share] = $in;

        return $state;
    }
}
