<?php

declare(strict_types=1);

namespace App\Fills;

use App\Formulas\FormulaContext;
use App\Layers\FilterSql;
use App\Layers\FormulaSql;
use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Layers\VisitSql;
use App\Models\Layer;
use App\Models\Slice;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\FieldRules;
use PinYard\Design\ValueRule;
use PinYard\Formula\Formula;
use PinYard\Record\RecordId;
use PinYard\Refused;
use stdClass;

/** A formula that is to be written into a field, checked, with what it would do. */
final readonly class FillPlan
{
    private const SHOWN = 10;

    private function __construct(
        public Layer $layer,
        public Field $field,
        public Formula $formula,
        public ?Slice $slice,
        private ?int $by,
    ) {
    }

    /**
     * @param  int|null  $by  whoever fills, for a slice of what is their own
     *
     * @throws Refused
     */
    public static function of(Layer $layer, mixed $key, mixed $text, mixed $slice, ?int $by): self
    {
        $design = $layer->design();
        $field = is_string($key) ? $design->field($key) : null;
        if (
            $field === null ||
            ! $field->hasValue() ||
            $field->kind === FieldKind::Calculated ||
            $field->kind === FieldKind::SeveralChoices
        ) {
            throw Refused::because('fill_field', 'field', is_string($key) ? $key : null);
        }
        if (! is_string($text)) {
            throw Refused::because('must_be_text', 'formula');
        }
        $formula = Formula::read($text, FieldRules::scope($design, $layer->neighbours()));
        $wanted = $field->kind->type();
        if (
            $wanted !== null &&
            ! $formula->type->fits($wanted) &&
            ! ($field->kind === FieldKind::OneChoice && $formula->type === \PinYard\Formula\Type::Text)
        ) {
            throw Refused::because('fill_type', 'formula', null, [
                'label' => $field->label,
                'wanted' => $wanted->value,
                'type' => $formula->type->value,
                'at' => 0,
                'length' => mb_strlen($text),
            ]);
        }
        $found = $slice === null ? null : $layer->slices()->find(is_int($slice) ? $slice : 0);
        if ($slice !== null && $found === null) {
            throw Refused::because('slice_unknown', 'slice');
        }

        return new self($layer, $field, $formula, $found, $by);
    }

    /** The records that it is about. */
    public function records(): Builder
    {
        $query = LayerRows::live($this->layer);
        if ($this->slice !== null) {
            (new FilterSql($this->layer, $this->by))->apply($query, $this->layer->filter($this->slice->filter));
        }

        return $query;
    }

    /**
     * What it makes of one record: the value as the column has it, or null where it is missing or does not fit the
     * field.
     */
    public function after(stdClass $row, FormulaContext $around): string|int|float|null
    {
        $value = $this->formula->value($around->at($row));
        if ($value === null || ValueRule::problem($this->field, $value) !== null) {
            return null;
        }
        $outside = $this->field->asks
            ? null
            : ValueRule::outside(
                $this->field,
                $value,
                now($this->layer->programme->time_zone)->format('Y-m-d'),
                now()->utc()->format('Y-m-d\TH:i:s\Z'),
            );

        return $outside === null
            ? StoredValue::toColumn($this->field->kind, ValueRule::clean($this->field, $value))
            : null;
    }

    /**
     * The value and the condition under which the field takes it, as SQL; null where only PHP can say.
     *
     * @return array{string, string}|null
     */
    public function sql(): ?array
    {
        $zone = new \DateTimeZone($this->layer->programme->time_zone);
        $quote = static fn (string $text): string => DB::connection()->getPdo()->quote($text);
        $sql = FormulaSql::of(
            $this->formula,
            $this->layer->design(),
            $zone,
            now()->toDateTimeImmutable(),
            $quote,
            VisitSql::of($this->layer),
        );
        if ($sql === null) {
            return null;
        }
        $field = $this->field;
        [$lowest, $highest] = $field->asks ? [null, null] : [$field->lowest, $field->highest];
        $most = $field->kind === FieldKind::WholeNumber ? Field::WHOLE_MOST : Field::DECIMAL_MOST;
        $between =
            "$sql between ".
            sprintf('%.17e', is_string($lowest) ? 0 : $lowest ?? -$most).
            ' and '.
            sprintf('%.17e', is_string($highest) ? 0 : $highest ?? $most);

        return match (true) {
            $field->kind === FieldKind::WholeNumber => [$sql, "$sql = floor($sql) and $between"],
            $field->kind === FieldKind::Decimal => [$sql, $between],
            $field->kind === FieldKind::YesNo => [$sql, '1 = 1'],
            $field->kind->isText() && $field->shape === null => [$sql, "char_length($sql) <= {$field->longest()}"],
            $field->kind === FieldKind::OneChoice && count($field->choices) <= 300 => [
                $sql,
                "$sql in (".
                implode(', ', array_map(static fn (Choice $c): string => $quote($c->code), $field->choices)).
                ')',
            ],
            $field->kind === FieldKind::Date && $lowest === null && $highest === null => [$sql, '1 = 1'],
            default => null,
        };
    }

    /** @param  iterable<stdClass>  $rows */
    public function around(iterable $rows): FormulaContext
    {
        return FormulaContext::rows($this->layer, $this->layer->design(), $rows, $this->formula->visited);
    }

    /** @return array{records: int, shown: list<array<string, mixed>>} the newest ten, before and after */
    public function preview(): array
    {
        $rows = $this->records()->orderByDesc('change_number')->limit(self::SHOWN)->get();
        $design = $this->layer->design();
        $around = $this->around($rows);

        return [
            'records' => $this->records()->count(),
            'shown' => array_values($rows
                ->map(
                    fn (stdClass $row): array => [
                        'id' => RecordId::fromBytes($row->id)->text,
                        'name' => StoredRow::name($design, $row),
                        'before' => StoredValue::shown($this->field, $row->{$this->field->column()}),
                        'after' => ($after = $this->after($row, $around)) === null
                                ? null
                                : StoredValue::shown($this->field, $after),
                    ],
                )
                ->all()),
        ];
    }
}
