<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use PinYard\Audience\SmallCounts;
use PinYard\Carto\Tally;
use PinYard\Carto\TallyMeasure;
use PinYard\Carto\TallyState;

/**
 * Which areas are not told to whoever is told figures of so many records at least: as the groups of a board are held
 * back ({@see \PinYard\Board\HeldFigures}).
 */
final readonly class HeldAreas
{
    public function __construct(private Tally $tally, private int $least)
    {
    }

    /**
     * @param  list<TallyState>  $states  of the areas; those that may not be told are held
     * @param  list<TallyState>|null  $whole  of all records in them, where these are of a slice
     * @param  int  $all  records, also those that lie in none of them
     */
    public function holdBack(array $states, ?array $whole, int $all): void
    {
        $held = $this->heldBack($states, $whole, $all);
        foreach ($states as $area => $state) {
            $state->held = $held === null || isset($held[$area]);
        }
    }

    /**
     * @param  list<TallyState>  $states
     * @param  list<TallyState>|null  $whole
     * @return array<int, true>|null null: all of them
     */
    private function heldBack(array $states, ?array $whole, int $all): ?array
    {
        if ($this->tally->measure === TallyMeasure::Least || $this->tally->measure === TallyMeasure::Most) {
            return null;
        }
        $counts = array_map($this->counted(...), $states);
        if ($whole !== null) {
            foreach ($states as $area => $state) {
                $parts = $this->tally->measure === TallyMeasure::Share
                    ? [[$state->share, $state->records], [$state->records, $whole[$area]->records]]
                    : [[$counts[$area], $whole[$area]->records]];
                foreach ($parts as [$part, $of]) {
                    if (SmallCounts::isTooFew($this->least, $part, $of)) {
                        return null;
                    }
                }
            }
        }
        $small = array_keys(array_filter(
            $counts,
            fn (int $n): bool => $n > 0 && SmallCounts::isTooFew($this->least, $n, max($n, $all)),
        ));
        $held = SmallCounts::heldBack($this->least, [...$counts, max(0, $all - array_sum($counts))], $small);
        unset($held[count($counts)]);

        return $held;
    }

    private function counted(TallyState $state): int
    {
        return $this->tally->field === null || $this->tally->measure === TallyMeasure::Rate
            ? $state->records
            : $state->known;
    }
}
