<?php

declare(strict_types=1);

namespace App\Records\Bits;

use App\Layers\ZoneSql;
use App\Models\Layer;
use PinYard\Bits\ChoiceCoder;
use PinYard\Bits\Coder;
use PinYard\Bits\NumberCoder;
use PinYard\Board\Grouping;
use PinYard\Design\FieldKind;
use PinYard\Filter\Subject;

/**
 * Something of each record that is counted by bits, with the SQL that gives it. Days are days since the year nought,
 * moments seconds of UTC since then; of a moment its day by the programme's clock is kept as well.
 */
final readonly class BitColumn
{
    /** By whom a record was made. */
    public const PERSON = '@by';

    public const ARRIVED = '@arrived';

    private const DAY = '@day';

    private function __construct(public string $key, public string $sql, private bool $isNumber, private bool $several)
    {
    }

    /** The key of the days of a date or a moment. */
    public static function days(string $key, ?FieldKind $kind): string
    {
        return $kind === FieldKind::Date ? $key : $key.self::DAY;
    }

    /** @return list<self> of a layer; texts, times and places are none */
    public static function all(Layer $layer): array
    {
        $zone = new \DateTimeZone($layer->programme->time_zone);
        $columns = [
            self::number(self::PERSON, 'created_by'),
            self::number(self::ARRIVED, self::seconds('received_at')),
            new self(Subject::ACCEPTED, 'accepted_at is not null', false, false),
            ...self::moment(Grouping::COLLECTED, 'collected_at', $zone),
        ];
        foreach ($layer->design()->valueFields() as $field) {
            $c = $field->column();
            array_push($columns, ...match ($field->valueKind()) {
                FieldKind::OneChoice, FieldKind::YesNo => [new self($field->key, $c, false, false)],
                FieldKind::SeveralChoices => [new self($field->key, $c, false, true)],
                FieldKind::WholeNumber, FieldKind::Decimal => [self::number($field->key, $c)],
                FieldKind::Date => [self::number($field->key, "to_days($c)")],
                FieldKind::DateTime => self::moment($field->key, $c, $zone),
                default => [],
            });
        }

        return $columns;
    }

    private static function number(string $key, string $sql): self
    {
        return new self($key, $sql, true, false);
    }

    /** @return list<self> */
    private static function moment(string $key, string $column, \DateTimeZone $zone): array
    {
        return [
            self::number($key, self::seconds($column)),
            self::number($key.self::DAY, 'to_days('.ZoneSql::local($column, $zone).')'),
        ];
    }

    private static function seconds(string $column): string
    {
        return "to_seconds($column) + microsecond($column) / 1e6";
    }

    /** @param  int  $decimals  so many at least */
    public function coder(int $decimals = 0): Coder
    {
        return $this->isNumber ? new NumberCoder($decimals) : new ChoiceCoder($this->several);
    }
}
