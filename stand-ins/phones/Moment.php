<?php

declare(strict_types=1);

namespace StandIns\Phones;

/** When something was really done on a simulated phone, and what its clock can tell of that. */
final class Moment
{
    /** Whether the phone's clock was the same at the doing as when the outcome came. */
    private bool $sameSince = false;

    /**
     * @param  float  $at  true time, in seconds
     * @param  float|null  $heard  the server's time at the last round before
     * @param  bool  $known  whether the clock was as at that round
     * @param  int  $settings  how often it had been set by then
     */
    public function __construct(
        public readonly float $at,
        public readonly ?float $heard,
        private readonly bool $known,
        private readonly int $settings,
    ) {
    }

    public function settled(int $settings): void
    {
        $this->sameSince = $settings === $this->settings;
    }

    /**
     * Whether the server can find out the moment: the clock was set at most once between the rounds before and after.
     */
    public function canBeKnown(): bool
    {
        return $this->heard !== null && ($this->known || $this->sameSince);
    }
}
