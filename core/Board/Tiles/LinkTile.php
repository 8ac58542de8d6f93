<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** A way to another page. */
final readonly class LinkTile extends Tile
{
    private const LONGEST = 2_000;

    private function __construct(Frame $frame, private string $address, private string $text)
    {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'link';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $address = trim($in->text('address', self::LONGEST));
        // Nothing but pages: whatever else an address can be would run or open something.
        if (preg_match('#^(https?://[^\s/]+|/(?!/))\S*$#Di', $address) !== 1) {
            throw $in->refused('link_address', 'address', $address);
        }

        return new self($frame, $address, $in->text('text', 500));
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $this->body();
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return ['address' => $this->address, 'text' => $this->text];
    }
}
