<?php

declare(strict_types=1);

namespace PinYard\Alert;

use PinYard\Board\TileInput;

/** Records that come into a slice: each is a case for as long as it is in it. */
final readonly class SliceRule extends AlertRule
{
    private function __construct(public int $layer, public int $slice)
    {
    }

    public static function read(TileInput $in, array $crews): self
    {
        $layer = $in->layer();

        return new self(
            $layer,
            $in->slice($in->value('slice'), $layer) ?? throw $in->refused('alert_slice', 'slice'),
        );
    }

    public function layers(): array
    {
        return [$this->layer];
    }

    public function slices(): array
    {
        return [$this->slice];
    }

    public function toArray(): array
    {
        return ['kind' => 'slice', 'layer' => $this->layer, 'slice' => $this->slice];
    }
}
