<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Choice;
use PinYard\Design\MarkName;
use PinYard\Refused;

/**
 * Our mark for a point: a head of a certain shape and colour on a short stem. Lines and areas have its colour, and may
 * be told apart by how they are drawn.
 */
final readonly class Peg
{
    /** How a line is drawn, or the outline of an area. */
    public const DASHES = ['solid', 'dashed', 'dotted'];

    /** How an area is filled: as the look fills all, or by a pattern. */
    public const FILLS = ['tint', 'full', 'stripes', 'dots', 'grid', 'none'];

    /**
     * Head and colour for the first categories of a layer; both differ from one to the next, so that none depends on
     * colour alone. Dark enough on the backdrop to be told apart.
     */
    private const SERIES = [
        ['diamond', '#0F5C53'],
        ['disc', '#E0A030'],
        ['triangle', '#9B2226'],
        ['bar', '#2F5D8A'],
        ['ring', '#7A4B8C'],
        ['cross', '#4D4A3F'],
        ['disc', '#4F9DA6'],
        ['diamond', '#C8420E'],
        ['bar', '#A9A860'],
        ['triangle', '#5E3B1E'],
        ['cross', '#B0578D'],
        ['ring', '#1D2B2E'],
    ];

    /**
     * @param  string  $dash  one of DASHES
     * @param  string  $fill  one of FILLS
     */
    private function __construct(
        public string $head,
        public string $colour,
        public string $dash = 'solid',
        public string $fill = 'tint',
    ) {
    }

    public static function nth(int $i): self
    {
        return new self(...self::SERIES[$i % count(self::SERIES)]);
    }

    public static function of(string $head, string $colour): self
    {
        return new self($head, strtoupper($colour));
    }

    /** For records without a number: a ring without filling, as no class has. */
    public static function missing(): self
    {
        return new self('ring', '#8C8672');
    }

    /** The choice's own colour and mark where it has them. */
    public static function forChoice(Choice $choice, int $i): self
    {
        $given = self::nth($i);

        return new self($choice->mark ?? $given->head, strtoupper($choice->colour ?? $given->colour));
    }

    public static function other(): self
    {
        return new self('disc', '#8C8672');
    }

    /** @throws Refused */
    public static function read(mixed $in, string $where): self
    {
        $head = is_array($in) ? $in['head'] ?? null : null;
        $colour = is_array($in) ? $in['colour'] ?? null : null;
        if (! is_string($head) || ! MarkName::is($head)) {
            throw Refused::because('peg_head', $where, is_scalar($head) ? $head : null, [
                'known' => implode(', ', MarkName::OURS),
            ]);
        }
        if (! is_string($colour) || preg_match('/^#[0-9A-Fa-f]{6}$/D', $colour) !== 1) {
            throw Refused::because('peg_colour', $where, is_scalar($colour) ? $colour : null);
        }

        [$dash, $fill] = [$in['dash'] ?? 'solid', $in['fill'] ?? 'tint'];
        if (! in_array($dash, self::DASHES, true)) {
            throw Refused::because('peg_dash', $where, is_scalar($dash) ? $dash : null, [
                'known' => implode(', ', self::DASHES),
            ]);
        }
        if (! in_array($fill, self::FILLS, true)) {
            throw Refused::because('peg_fill', $where, is_scalar($fill) ? $fill : null, [
                'known' => implode(', ', self::FILLS),
            ]);
        }

        return new self($head, strtoupper($colour), $dash, $fill);
    }

    /** Whether only their colours differ. */
    public function isShapedAs(self $other): bool
    {
        return $this->head === $other->head && $this->dash === $other->dash && $this->fill === $other->fill;
    }

    /** @return string|null name of the picture that fills its areas; null where a plain colour does */
    public function pattern(): ?string
    {
        return in_array($this->fill, ['stripes', 'dots', 'grid'], true)
            ? "fill-{$this->fill}-".ltrim($this->colour, '#')
            : null;
    }

    /** Name of the picture that draws this peg in a map style. */
    public function image(): string
    {
        return "peg-{$this->head}-".ltrim($this->colour, '#');
    }

    /** Name of the picture of its head alone, for the middle of a line or an area. */
    public function headImage(): string
    {
        return "head-{$this->head}-".ltrim($this->colour, '#');
    }

    /** @return array{head: string, colour: string, dash?: string, fill?: string} */
    public function toArray(): array
    {
        return ['head' => $this->head, 'colour' => $this->colour] +
            ($this->dash === 'solid' ? [] : ['dash' => $this->dash]) +
            ($this->fill === 'tint' ? [] : ['fill' => $this->fill]);
    }
}
