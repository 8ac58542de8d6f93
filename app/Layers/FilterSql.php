<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use PinYard\Design\FieldKind;
use PinYard\Filter\Condition;
use PinYard\Filter\Filter;
use PinYard\Filter\Joined;
use PinYard\Filter\Subject;
use PinYard\Filter\Test;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;

/** The one place where a filter becomes SQL; every value is bound. */
final readonly class FilterSql
{
    private string $table;

    /** Days begin in the programme's zone. */
    private \DateTimeZone $zone;

    /**
     * @param  int|null  $person  whoever looks, for what is their own; null: nobody's
     * @param  bool  $places  whether they may know where records are: no rule on places is true for those who may not
     */
    public function __construct(private Layer $layer, private ?int $person, private bool $places = true)
    {
        $this->table = $layer->table();
        $this->zone = new \DateTimeZone($layer->programme->time_zone);
    }

    /** @param  Builder  $query  over the layer's table itself */
    public function apply(Builder $query, Filter $filter): Builder
    {
        if ($filter->parts === []) {
            // Said aloud, because an empty group would vanish from an "any" that it makes true.
            return $query->whereRaw($filter->joined === Joined::Any ? '1 = 0' : '1 = 1');
        }
        $group = function (Builder $group) use ($filter): void {
            foreach ($filter->parts as $part) {
                $group->where(
                    fn (Builder $one) => $part instanceof Filter
                        ? $this->apply($one, $part)
                        : $this->condition($one, $part),
                    boolean: $filter->joined === Joined::All ? 'and' : 'or',
                );
            }
        };
        if ($filter->joined !== Joined::None) {
            return $query->where($group);
        }
        $inner = $query->forNestedWhere();
        $group($inner);
        $sql = substr($query->getGrammar()->compileWheres($inner), strlen('where '));

        // A comparison with what is missing is neither true nor false in SQL; here it is not true.
        return $query->whereRaw("($sql) is not true", $inner->getRawBindings()['where']);
    }

    private function condition(Builder $query, Condition $c): Builder
    {
        return match ($c->subject->field === null ? $c->subject->key : null) {
            Subject::PLACE => $this->places ? $this->place($query, $c) : $query->whereRaw('1 = 0'),
            Subject::CREW => $this->crew($query, $c),
            Subject::OWN => $query->where("$this->table.created_by", $this->person ?? 0),
            Subject::ACCEPTED => $query->whereNull("$this->table.accepted_at", not: $this->bound($c) === true),
            Subject::VISITS => $this->number($query, $this->visitsSql('count(*)'), $c),
            default => $c->subject->ofVisit
                ? $this->latestVisit($query, $c)
                : $this->value($query, "$this->table.".$this->column($c), $c),
        };
    }

    private function column(Condition $c): string
    {
        return $c->subject->field?->column() ?? 'collected_at';
    }

    /** @param  string  $column  made of keys that the design has */
    private function value(Builder $query, string $column, Condition $c): Builder
    {
        $kind = $c->subject->field?->valueKind();
        if ($kind === null || $kind->isDay()) {
            $days = DayRange::of($c->test, $c->value, $this->layer->programme->now());
            if ($days !== null) {
                return $this->days($query, $column, $days, $kind !== FieldKind::Date);
            }
        }
        $several = $kind === FieldKind::SeveralChoices;
        $empty = $kind?->isText() === true || $several ? "$column is null or $column = ''" : "$column is null";

        return match ($c->test) {
            Test::Is => $query->where($column, $this->bound($c)),
            Test::IsNot => $query->whereRaw("($column is null or $column <> ?)", [$this->bound($c)]),
            Test::OneOf => $several
                ? $query->where(function (Builder $any) use ($column, $c): void {
                    foreach ($c->values() as $code) {
                        $any->orWhereRaw("find_in_set(?, $column) > 0", [$code]);
                    }
                })
                : $query->whereIn($column, $c->values()),
            Test::NoneOf => $query->where(
                fn (Builder $any) => $any->whereNull($column)->orWhereNotIn($column, $c->values()),
            ),
            Test::Contains => $query->where($column, 'like', '%'.addcslashes((string) $this->bound($c), '\\%_').'%'),
            Test::Has => $query->whereRaw("find_in_set(?, $column) > 0", [$this->bound($c)]),
            Test::HasNot => $query->whereRaw("($column is null or find_in_set(?, $column) = 0)", [$this->bound($c)]),
            Test::Missing => $query->whereRaw("($empty)"),
            Test::There => $query->whereRaw("not ($empty)"),
            default => $this->number($query, $column, $c),
        };
    }

    private function bound(Condition $c): string|int|float|bool
    {
        return $c->values()[0] ?? throw new \LogicException('a test without its value');
    }

    /** @param  string  $expression  a column or something that is worked out */
    private function number(Builder $query, string $expression, Condition $c): Builder
    {
        return match ($c->test) {
            Test::Is => $query->whereRaw("$expression = ?", [$this->bound($c)]),
            Test::IsNot => $query->whereRaw("not ($expression <=> ?)", [$this->bound($c)]),
            Test::AtLeast => $query->whereRaw("$expression >= ?", [$this->bound($c)]),
            Test::AtMost => $query->whereRaw("$expression <= ?", [$this->bound($c)]),
            Test::Between => $query->whereRaw("$expression between ? and ?", $c->values()),
            default => throw new \LogicException("a number has no test {$c->test->value}"),
        };
    }

    /** @param  array{string|null, string|null}  $days  first and last, both counted in; null: without an end */
    private function days(Builder $query, string $column, array $days, bool $isInstant): Builder
    {
        [$first, $last] = $days;
        if ($first !== null) {
            $query->where($column, '>=', $isInstant ? $this->startOfDay($first) : $first);
        }
        if ($last !== null) {
            $isInstant
                ? $query->where($column, '<', $this->startOfDay($last, 1))
                : $query->where($column, '<=', $last);
        }

        return $query;
    }

    private function startOfDay(string $day, int $plus = 0): string
    {
        return (new \DateTimeImmutable($day, $this->zone))
            ->modify("+$plus days")
            ->setTimezone(new \DateTimeZone('UTC'))
            ->format('Y-m-d H:i:s');
    }

    private function crew(Builder $query, Condition $c): Builder
    {
        $people = static fn (Builder $members): Builder => $members
            ->from('members')
            ->select('user_id')
            ->whereIn('crew_id', $c->values());

        return $c->test === Test::OneOf
            ? $query->whereIn("$this->table.created_by", $people)
            : $query->where(
                fn (Builder $any) => $any
                    ->whereNull("$this->table.created_by")
                    ->orWhereNotIn("$this->table.created_by", $people),
            );
    }

    /** A place counts as the point that a line or an area is listed by. */
    private function place(Builder $query, Condition $c): Builder
    {
        $value = is_array($c->value) ? $c->value : [];
        if ($c->test === Test::Within) {
            return PlaceSql::around($query, $this->table, $value['lon'], $value['lat'], $value['metres']);
        }
        $shape =
            $c->test === Test::InShape
                ? Shape::fromGeoJson($value, GeometryKind::Area)
                : PlaceSql::areaOf($this->layer->programme, $value['layer'], $value['record']);

        // An area that is no more has nothing in it.
        return $shape === null ? $query->whereRaw('1 = 0') : PlaceSql::inside($query, $this->table, $shape);
    }

    private function latestVisit(Builder $query, Condition $c): Builder
    {
        $visits = $this->layer->visitsLayer?->table() ?? throw new \LogicException('a layer without visits');

        return $query->whereExists(
            fn (Builder $visit) => $this->value(
                $visit
                    ->from("$visits as visit")
                    ->selectRaw('1')
                    ->whereRaw('visit.id = '.$this->visitsSql('id', ' order by collected_at desc, id desc limit 1')),
                'visit.'.$this->column($c),
                $c,
            ),
        );
    }

    /** Of the visits to the record at hand; the names are the layers' own. */
    private function visitsSql(string $what, string $end = ''): string
    {
        $visits = $this->layer->visitsLayer?->table() ?? throw new \LogicException('a layer without visits');

        return "(select $what from $visits where parent = $this->table.id and deleted = 0$end)";
    }
}
