<?php

declare(strict_types=1);

namespace PinYard\Alert;

use PinYard\Board\TileInput;

/** When somebody is to be told: a kind of case that begins, and ends again. */
abstract readonly class AlertRule
{
    /** @var array<string, class-string<self>> */
    private const KINDS = [
        'slice' => SliceRule::class,
        'measure' => MeasureRule::class,
        'silence' => SilenceRule::class,
    ];

    /**
     * Reads `{kind, ...}`.
     *
     * @param  list<int>  $crews  of the programme
     *
     * @throws \PinYard\Refused
     */
    final public static function of(TileInput $in, array $crews): self
    {
        $kind = $in->value('kind');
        $class = is_string($kind) ? self::KINDS[$kind] ?? null : null;

        return $class === null ? throw $in->refused('alert_kind', 'kind', $kind) : $class::read($in, $crews);
    }

    /**
     * @param  list<int>  $crews
     *
     * @throws \PinYard\Refused
     */
    abstract public static function read(TileInput $in, array $crews): self;

    /** @return list<int> numbers of the layers that it reads */
    abstract public function layers(): array;

    /** @return list<int> numbers of the slices that it goes by */
    abstract public function slices(): array;

    /** @return array<string, mixed> as it is stored */
    abstract public function toArray(): array;
}
