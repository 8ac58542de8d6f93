<?php

declare(strict_types=1);

namespace PinYard\Alert;

use DateTimeImmutable;
use PinYard\Board\TileInput;

/** A crew that was not heard for some hours: each such crew is a case, until it is heard. */
final readonly class SilenceRule extends AlertRule
{
    private const MOST_HOURS = 720;

    /**
     * @param  int|null  $crew  null: any
     * @param  bool  $onOutings  only on the days that it has an outing
     */
    private function __construct(public ?int $crew, public int $hours, public bool $onOutings)
    {
    }

    public static function read(TileInput $in, array $crews): self
    {
        $crew = $in->value('crew');
        if ($crew !== null && ! in_array($crew, $crews, true)) {
            throw $in->refused('outing_crew', 'crew', $crew);
        }

        return new self($crew, $in->whole('hours', 1, self::MOST_HOURS, 12) ?? 12, $in->yes('on_outings'));
    }

    /** @param  DateTimeImmutable  $heard  when last; since when it is there, where it never was */
    public function isSilent(DateTimeImmutable $heard, DateTimeImmutable $now): bool
    {
        return $now->getTimestamp() - $heard->getTimestamp() >= $this->hours * 3_600;
    }

    public function layers(): array
    {
        return [];
    }

    public function slices(): array
    {
        return [];
    }

    public function toArray(): array
    {
        return [
            'kind' => 'silence',
            'crew' => $this->crew,
            'hours' => $this->hours,
            'on_outings' => $this->onOutings,
        ];
    }
}
