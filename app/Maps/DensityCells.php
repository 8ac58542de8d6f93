<?php

declare(strict_types=1);

namespace App\Maps;

use App\Records\VisibleRecords;
use App\Texts;
use PinYard\Audience\Sharpness;
use PinYard\Carto\Marks\Density;
use PinYard\Export\GeoJson;
use PinYard\Geo\Geodesic;
use PinYard\Geo\ZOrder;
use PinYard\Stats\Spread;

/**
 * The cells of a density: how many records lie in each, or a sum of theirs, asked over all records. What a viewer may
 * not see to the place is not counted.
 */
final class DensityCells
{
    /** More cells than these are not sent at once; those with the most come first. */
    private const MOST = 20_000;

    /** How a cell is known where a record has its id. */
    private const NAMED = '/\Acell-(\d{1,19})\z/D';

    /** @var array<int, array{int, float|null}>|null */
    private ?array $cells = null;

    /** @param  VisibleRecords  $records  showing the field that is summed, if one is */
    public function __construct(private readonly VisibleRecords $records, private readonly Density $density)
    {
    }

    /**
     * @return array<int, array{int, float|null}> records and value by cell, which is a quarter's number without its
     *     last bits
     */
    private function all(): array
    {
        if ($this->cells !== null) {
            return $this->cells;
        }
        $field = $this->density->field;
        if (
            $this->records->seesNothing() ||
            $this->records->sight->place === Sharpness::None ||
            ($field !== null && ! $this->records->shows($field->key))
        ) {
            return $this->cells = [];
        }
        $cells = [];
        foreach (
            $this->records
                ->rows()
                ->whereNotNull('z')
                ->selectRaw(
                    'z >> ? as cell, count(*) as n'.($field === null ? '' : ", sum({$field->column()}) as total"),
                    [2 * $this->density->bits],
                )
                ->groupBy('cell')
                ->orderByDesc('n')
                ->limit(self::MOST)
                ->get() as $row
        ) {
            $value = $field === null ? $row->n : $row->total;
            $cells[(int) $row->cell] = [(int) $row->n, $value === null ? null : (float) $value];
        }
        ksort($cells);

        return $this->cells = $cells;
    }

    public function spread(): Spread
    {
        return Spread::ofValues(array_map(static fn (array $cell): ?float => $cell[1], $this->all()));
    }

    /** @return array<array-key, int> how many cells are in each class; '' where there is nothing to sum */
    public function counts(): array
    {
        $counts = [];
        foreach ($this->all() as [, $value]) {
            $code = $this->density->numbers()->codeOf($value) ?? '';
            $counts[$code] = ($counts[$code] ?? 0) + 1;
        }

        return $counts;
    }

    /** @return array<string, mixed> a GeoJSON FeatureCollection of squares */
    public function features(): array
    {
        $features = [];
        foreach ($this->all() as $cell => [, $value]) {
            [$west, $south, $east, $north] = self::bounds($cell, $this->density->bits);
            $class = $this->density->numbers()->codeOf($value);
            $features[] = GeoJson::feature(
                "cell-$cell",
                [
                    'type' => 'Polygon',
                    'coordinates' => [[
                        [$west, $south],
                        [$east, $south],
                        [$east, $north],
                        [$west, $north],
                        [$west, $south],
                    ]],
                ],
                ['id' => "cell-$cell"] + ($class === null ? [] : ['class' => $class]),
            );
        }

        return GeoJson::collection($features);
    }

    /** @return array{float, float, float, float} west, south, east, north */
    private static function bounds(int $cell, int $bits): array
    {
        [$x, $y] = ZOrder::stepsOf($cell << (2 * $bits));

        return array_map(
            static fn (float $degrees): float => round($degrees, GeoJson::DECIMALS),
            ZOrder::bounds($x, $y, $bits),
        );
    }

    /**
     * The card of a cell.
     *
     * @return array<string, mixed>|null null where it is no cell with records
     */
    public function card(string $named, string $title): ?array
    {
        $cell = preg_match(self::NAMED, $named, $found) === 1 ? (int) $found[1] : null;
        $of = $cell === null ? null : $this->all()[$cell] ?? null;
        if ($of === null || $cell === null) {
            return null;
        }
        $field = $this->density->field;
        $unit = $field?->unit === null ? '' : " {$field->unit}";
        $values = [['label' => $title, 'kind' => 'whole_number', 'text' => (string) $of[0]]];
        if ($field !== null) {
            $values[] = [
                'label' => $field->label,
                'kind' => 'decimal',
                'text' => $of[1] === null ? Texts::of('legend.missing') : LegendText::number($of[1]).$unit,
            ];
        }
        $values[] = [
            'label' => Texts::of('density.side'),
            'kind' => 'short_text',
            'text' => Texts::of('density.metres', [
                'metres' => self::metres(...self::bounds($cell, $this->density->bits)),
            ]),
        ];

        return [
            'id' => $named,
            'name' => Texts::of('density.cell'),
            'text' => [],
            'chart' => null,
            'visits' => null,
            'collected_at' => null,
            'values' => $values,
            'photos' => [],
        ];
    }

    /** The side of a cell on the ground, at its middle, rounded to two digits that count. */
    private static function metres(float $west, float $south, float $east, float $north): int
    {
        $lat = ($south + $north) / 2;
        $metres = Geodesic::metres($west, $lat, $east, $lat);
        $step = 10 ** max(0, (int) floor(log10(max(1.0, $metres))) - 1);

        return (int) (round($metres / $step) * $step);
    }
}
