<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use App\Layers\ZoneSql;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Board\Grouping;
use PinYard\Board\Step;
use PinYard\Design\FieldKind;

/** The group of a record as SQL says it. */
final readonly class GroupSql
{
    /** @param  \Closure(Builder): mixed  $join  what must be joined for it */
    private function __construct(public string $expression, private \Closure $join)
    {
    }

    public static function of(Grouping $by, int $programme, \DateTimeZone $zone): self
    {
        $nothing = static function (): void {
        };
        $field = $by->field;
        if ($by->step !== null) {
            $column = $field?->column() ?? 'collected_at';
            $day = $field?->valueKind() === FieldKind::Date ? $column : ZoneSql::local($column, $zone);

            return new self(self::step($day, $by->step), $nothing);
        }
        if ($by->key === Grouping::CREW) {
            return new self('crew_of.crew_id', static fn (Builder $rows) => $rows->leftJoinSub(
                DB::table('members')->where('programme_id', $programme)->select('user_id', 'crew_id'),
                'crew_of',
                'crew_of.user_id',
                '=',
                'created_by',
            ));
        }
        if ($by->key === Grouping::PERSON || $field === null) {
            return new self('created_by', $nothing);
        }
        $column = $field->column();
        if ($field->valueKind() !== FieldKind::SeveralChoices) {
            return new self($field->valueKind()->isText() ? "nullif($column, '')" : $column, $nothing);
        }
        $codes = null;
        foreach ($field->choices as $choice) {
            $one = DB::query()->selectRaw('? as code', [$choice->code]);
            $codes = $codes === null ? $one : $codes->unionAll($one);
        }

        // A record with several choices is in several groups; one without is in that of none.
        return $codes === null ? new self('null', $nothing) : new self(
            'chosen.code',
            static fn (Builder $rows) => $rows->leftJoinSub(
                $codes,
                'chosen',
                static fn ($join) => $join->whereRaw("find_in_set(chosen.code, $column) > 0"),
            ),
        );
    }

    public function join(Builder $rows): Builder
    {
        ($this->join)($rows);

        return $rows;
    }

    private static function step(string $day, Step $step): string
    {
        return match ($step) {
            Step::Day => "date_format($day, '%Y-%m-%d')",
            Step::Week => "date_format(date_sub($day, interval weekday($day) day), '%Y-%m-%d')",
            Step::Month => "date_format($day, '%Y-%m-01')",
            Step::Year => "date_format($day, '%Y-01-01')",
        };
    }
}
