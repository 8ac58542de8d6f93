<?php

declare(strict_types=1);

namespace App\Recalculation;

use App\Formulas\FormulaContext;
use App\Layers\FormulaSql;
use App\Layers\LayerRows;
use App\Layers\StoredValue;
use App\Layers\VisitSql;
use App\Models\Layer;
use App\Records\Cause;
use App\Records\RecordWriter;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Field;
use PinYard\Record\ValueCheck;

/**
 * Works calculated fields out anew for all records of a layer: in SQL where that gives the same, else record by record.
 * It goes in parts, each under the layer's lock, so that rounds of phones come in between and nothing that they bring
 * is overwritten; only records whose values become different are written, and phones hear of those.
 */
final class Recalculate implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    /** Up to so many records it is done while one waits. */
    private const AT_ONCE = 20_000;

    private const ROWS = 1_000;

    public int $timeout = 3_600;

    /** Whoever is killed half way leaves what is done, and the next goes through all of it again. */
    public int $tries = 3;

    /** @param  list<string>  $keys */
    public function __construct(
        private readonly int $layer,
        private readonly array $keys,
        private readonly Cause $cause = Cause::Formulas,
        private readonly ?int $user = null,
    ) {
        $this->onQueue('slow');
    }

    /** @param  list<string>  $keys */
    public static function soon(Layer $layer, array $keys, Cause $cause, ?int $user = null): void
    {
        LayerRows::all($layer)->count() <= self::AT_ONCE
            ? self::dispatchSync($layer->id, $keys, $cause, $user)
            : self::dispatch($layer->id, $keys, $cause, $user);
    }

    public function handle(): void
    {
        $layer = Layer::withTrashed()->with('programme')->find($this->layer);
        if ($layer === null) {
            return;
        }
        $design = $layer->design();
        $parts = new LayerParts($layer, $this->cause, $this->user);
        $rest = [];
        // In the order of dependence, because one may read another.
        foreach (array_values(array_intersect($design->rules->order, $this->keys)) as $key) {
            $field = $design->field($key);
            $sql = $field === null || $rest !== [] ? null : $this->sql($layer, $field);
            if ($sql !== null) {
                $parts->update([$field->column() => $sql], [$key]);
            } elseif (
                $field !== null &&
                ! (
                    $rest === [] &&
                    ! isset($design->rules->show[$key]) &&
                    isset($design->rules->formulas[$key]) &&
                    AreasInBulk::run($parts, $layer, $field, $design->rules->formulas[$key])
                )
            ) {
                $rest[] = $field;
            }
        }
        if ($rest !== []) {
            $this->oneByOne($parts, $rest);
        }
        if ($parts->overtaken) {
            // The design has changed meanwhile: what is left is worked out by the new one.
            self::dispatch($this->layer, $this->keys, $this->cause, $this->user);
        }
    }

    private function sql(Layer $layer, Field $field): ?string
    {
        $design = $layer->design();
        $formula = $design->rules->formulas[$field->key] ?? null;
        $show = $design->rules->show[$field->key] ?? null;
        $zone = new \DateTimeZone($layer->programme->time_zone);
        $quote = static fn (string $text): string => DB::connection()->getPdo()->quote($text);
        $of = static fn ($f): ?string => FormulaSql::of(
            $f,
            $design,
            $zone,
            now()->toDateTimeImmutable(),
            $quote,
            VisitSql::of($layer),
        );
        $sql = $formula === null ? null : $of($formula);
        if ($sql === null || ($show !== null && $of($show) === null)) {
            return null;
        }
        // What SQL has as the text of a moment goes into a column of its own kind.
        if ($field->valueKind() === \PinYard\Design\FieldKind::DateTime) {
            $sql = "replace(replace($sql, 'T', ' '), 'Z', '')";
        }

        return $show === null ? $sql : "case when {$of($show)} then $sql end";
    }

    /** @param  list<Field>  $fields */
    private function oneByOne(LayerParts $parts, array $fields): void
    {
        $keys = array_map(static fn (Field $f): string => $f->key, $fields);
        $parts->each(self::ROWS, static function (RecordWriter $writer, string $after, ?string $last) use (
            $fields,
            $keys,
        ): void {
            $design = $writer->layer->design();
            $rows = LayerParts::between($writer->records(), $after, $last)->get();
            $around = FormulaContext::rows($writer->layer, $design, $rows, $design->rules->visited());
            $changed = [];
            foreach ($rows as $row) {
                $in = $around->at($row);
                $values = ValueCheck::against($design, $in->values, $in, $in->values)->values;
                $set = [];
                foreach ($fields as $field) {
                    $new = StoredValue::toColumn($field->valueKind(), $values[$field->key] ?? null);
                    if ((string) $new !== (string) $row->{$field->column()}) {
                        $set[$field->column()] = $new;
                    }
                }
                if ($set !== []) {
                    $changed[] = [...(array) $row, ...$set];
                }
            }
            $writer->rework($changed, $keys);
        });
    }
}
