<?php

declare(strict_types=1);

namespace App\Formulas;

use App\Layers\StoredRow;
use App\Models\Layer;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use stdClass;

/** What formulas are worked out in, for some rows of a layer's table. */
final readonly class FormulaContext
{
    private \DateTimeImmutable $now;

    private \DateTimeZone $zone;

    /**
     * @param  array<string, array{int, array<string, mixed>, string}>  $visits  by record, where a formula asks for
     *     them
     */
    private function __construct(
        Layer $layer,
        private LayerDesign $design,
        private array $visits,
        private \Closure $areas,
    ) {
        // One moment for all of them, and one zone: both cost more than working out a formula does.
        $this->now = now()->toDateTimeImmutable();
        $this->zone = new \DateTimeZone($layer->programme->time_zone);
    }

    /** @param  iterable<stdClass>  $rows */
    public static function rows(Layer $layer, LayerDesign $design, iterable $rows, bool $visited): self
    {
        $ids = [];
        foreach ($visited ? $rows : [] as $row) {
            $ids[] = $row->id;
        }

        return new self($layer, $design, LatestVisits::of($layer, $ids), AreaLookup::in($layer->programme));
    }

    public static function row(Layer $layer, LayerDesign $design, stdClass $row): Surroundings
    {
        return self::rows($layer, $design, [$row], $design->rules->visited())->at($row);
    }

    public function at(stdClass $row): Surroundings
    {
        [$count, $latest] = $this->visits[$row->id] ?? [0, []];
        $number = static fn (mixed $v): ?float => $v === null ? null : (float) $v;

        return new Surroundings(
            StoredRow::values($this->design, $row),
            $this->now,
            $this->zone,
            $this->design->rules->labels,
            (float) $row->lon,
            (float) $row->lat,
            $number($row->length_m ?? null),
            $number($row->area_m2 ?? null),
            $number($row->altitude ?? null),
            $count,
            $latest,
            $this->areas,
        );
    }
}
