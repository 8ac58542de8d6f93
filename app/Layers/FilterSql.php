<?php

declare(strict_types=1);

namespace App\Layers;

use Illuminate\Database\Query\Builder;
use PinYard\Board\Condition;
use PinYard\Board\Filter;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;

/** The one place where a filter becomes SQL; every value is bound. */
final readonly class FilterSql
{
    /** @param  \DateTimeZone  $zone in which days begin: the programme's */
    public function __construct(private LayerDesign $design, private \DateTimeZone $zone)
    {
    }

    public function apply(Builder $query, Filter $filter): Builder
    {
        if ($filter->parts === []) {
            // Said aloud, because an empty group would vanish from an "any" that it makes true.
            return $query->whereRaw('1 = 1');
        }

        return $query->where(function (Builder $group) use ($filter): void {
            foreach ($filter->parts as $part) {
                $group->where(
                    fn (Builder $one) => $part instanceof Filter
                        ? $this->apply($one, $part)
                        : $this->condition($one, $part),
                    boolean: $filter->any ? 'or' : 'and',
                );
            }
        });
    }

    private function condition(Builder $query, Condition $c): Builder
    {
        $field = $this->design->field($c->field);
        $isInstant = $field === null || $field->valueKind() === FieldKind::DateTime;
        $column = $field?->column() ?? 'collected_at';
        $day = fn (string $text, int $plus = 0): string => $isInstant ? $this->startOfDay($text, $plus) : $text;

        return match ($c->test) {
            'is' => $query->where($column, $c->value),
            'has' => $query->whereRaw("find_in_set(?, $column) > 0", [$c->value]),
            'one_of' => $query->whereIn($column, (array) $c->value),
            'at_least' => $query->where($column, '>=', $c->value),
            'at_most' => $query->where($column, '<=', $c->value),
            'since' => $query->where($column, '>=', $day((is_array($c->value) ? '' : (string) $c->value))),
            'until' => $isInstant
                ? $query->where($column, '<', $day((is_array($c->value) ? '' : (string) $c->value), 1))
                : $query->where($column, '<=', $c->value),
            'last_days' => $this->lastDays($query, $column, (int) $c->value, ! $isInstant),
        };
    }

    /** Today and the days before it, so many in all. */
    private function lastDays(Builder $query, string $column, int $days, bool $isDate): Builder
    {
        $today = now($this->zone)->format('Y-m-d');
        $first = now($this->zone)
            ->subDays($days - 1)
            ->format('Y-m-d');

        return $isDate
            ? $query->whereBetween($column, [$first, $today])
            : $query
                ->where($column, '>=', $this->startOfDay($first))
                ->where($column, '<', $this->startOfDay($today, 1));
    }

    private function startOfDay(string $day, int $plus = 0): string
    {
        return (new \DateTimeImmutable($day, $this->zone))
            ->modify("+$plus days")
            ->setTimezone(new \DateTimeZone('UTC'))
            ->format('Y-m-d H:i:s');
    }
}
