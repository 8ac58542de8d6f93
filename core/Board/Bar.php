<?php

declare(strict_types=1);

namespace PinYard\Board;

/** One group of a breakdown. */
final readonly class Bar
{
    /**
     * @param  int  $groups  how many groups it stands for
     * @param  bool  $held  whether it is of too few to be told
     */
    public function __construct(
        public Line $line,
        public ?float $value,
        public int $n,
        private ?int $share = null,
        private int $groups = 1,
        public bool $held = false,
    ) {
    }

    /** @param  list<self>  $bars */
    public static function together(array $bars, bool $adds): self
    {
        return new self(
            new Line(null, null),
            $adds ? array_sum(array_map(static fn (self $b): float => $b->value ?? 0.0, $bars)) : null,
            array_sum(array_map(static fn (self $b): int => $b->n, $bars)),
            null,
            count($bars),
        );
    }

    public function withShare(?int $share): self
    {
        return new self($this->line, $this->value, $this->n, $share, $this->groups, $this->held);
    }

    /** @return array<string, mixed> */
    public function toArray(?Cells $cells): array
    {
        return $this->line->toArray() + [
            'value' => $this->value,
            'n' => $this->n,
            'share' => $this->share,
            'held' => $this->held,
        ] + ($cells === null ? [] : ['parts' => $cells->of($this->line)]);
    }

    /** @return array{groups: int, value: float|null, n: int, share: int|null} */
    public function asOthers(): array
    {
        return ['groups' => $this->groups, 'value' => $this->value, 'n' => $this->n, 'share' => $this->share];
    }
}
