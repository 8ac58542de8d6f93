<?php

declare(strict_types=1);

namespace App\Maps;

use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use PinYard\Carto\Marks\ByChoice;
use PinYard\Carto\Marks\ByClasses;
use PinYard\Carto\Marks\Crossed;
use PinYard\Carto\Marks\Marks;
use PinYard\Carto\Marks\Shades;
use PinYard\Design\Field;

/**
 * The class of a record as SQL says it, for counts and for the rows of a class over all records; as
 * {@see Marks::classOf()} says it of one.
 */
final readonly class ClassSql
{
    /** @param  list<int|float|string>  $bindings */
    private function __construct(private string $sql, private array $bindings)
    {
    }

    /** @return self|null null where records are in no classes, or the viewer may not know them */
    public static function of(Marks $marks, VisibleRecords $records): ?self
    {
        foreach ($marks->fields() as $key) {
            if (! $records->shows($key)) {
                return null;
            }
        }

        return match (true) {
            $marks instanceof ByChoice => new self("coalesce({$marks->field->column()}, '')", []),
            $marks instanceof ByClasses => self::stepped($marks->field, $marks->numbers()->breaks),
            $marks instanceof Crossed => self::crossed(
                self::stepped($marks->of[0], $marks->breaks[0]),
                self::stepped($marks->of[1], $marks->breaks[1]),
            ),
            $marks instanceof Shades => self::shaded($marks),
            default => null,
        };
    }

    /** @param  list<float>  $breaks  ascending */
    private static function stepped(Field $field, array $breaks): self
    {
        $column = $field->column();
        $when = implode(' ', array_map(
            static fn (int $i): string => "when $column < ? then '$i'",
            array_keys($breaks),
        ));

        return new self("case when $column is null then '' $when else '".count($breaks)."' end", $breaks);
    }

    private static function crossed(self $a, self $b): self
    {
        return new self(
            "case when {$a->sql} = '' or {$b->sql} = '' then '' else concat({$a->sql}, '-', {$b->sql}) end",
            [...$a->bindings, ...$b->bindings, ...$a->bindings, ...$b->bindings],
        );
    }

    private static function shaded(Shades $shades): self
    {
        $column = $shades->field->column();

        return new self(
            "coalesce(cast(greatest(0, least(?, floor(($column - ?) / ? * ?))) as int), '')",
            [Shades::STEPS - 1, $shades->from, $shades->to - $shades->from, Shades::STEPS],
        );
    }

    /**
     * As the lines of the legend have them: all shades stand in one.
     *
     * @return array<array-key, int>
     */
    public function countsByLine(Builder $rows, Marks $marks): array
    {
        $counts = $this->counts($rows);
        if (! $marks instanceof Shades) {
            return $counts;
        }
        $none = $counts[''] ?? 0;

        return ['shades' => array_sum($counts) - $none, '' => $none];
    }

    /** @return array<array-key, int> how many of the rows are in each class; '' where there is none */
    public function counts(Builder $rows): array
    {
        return $rows
            ->selectRaw("{$this->sql} as code, count(*) as n", $this->bindings)
            ->groupBy('code')
            ->pluck('n', 'code')
            ->map(static fn (mixed $n): int => (int) $n)
            ->all();
    }

    /** Only the rows of one line of the legend; '' for those of none. */
    public function only(Builder $rows, Marks $marks, string $class): Builder
    {
        // All shades stand in one line.
        return $marks instanceof Shades && $class !== ''
            ? $rows->whereRaw("{$this->sql} <> ''", $this->bindings)
            : $rows->whereRaw("{$this->sql} = ?", [...$this->bindings, $class]);
    }
}
