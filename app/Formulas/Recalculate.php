<?php

declare(strict_types=1);

namespace App\Formulas;

use App\Models\Layer;
use App\Storage\FormulaSql;
use App\Storage\StoredValue;
use App\Storage\VisitSql;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Field;
use PinYard\Record\ValueCheck;

/** Works calculated fields out anew for all records of a layer: in SQL where that gives the same, else record by record. */
final class Recalculate implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    /** Up to so many records it is done while one waits. */
    private const AT_ONCE = 20_000;

    private const ROWS = 1_000;

    /** @param  list<string>  $keys */
    public function __construct(private readonly int $layer, private readonly array $keys)
    {
    }

    /** @param  list<string>  $keys */
    public static function soon(Layer $layer, array $keys): void
    {
        DB::table($layer->table())->count() <= self::AT_ONCE ? self::dispatchSync($layer->id, $keys) : self::dispatch($layer->id, $keys);
    }

    public function handle(): void
    {
        $layer = Layer::query()->with('programme')->find($this->layer);
        if ($layer === null) {
            return;
        }
        $design = $layer->design();
        $rest = [];
        // In the order of dependence, because one may read another.
        foreach (array_values(array_intersect($design->rules->order, $this->keys)) as $key) {
            $field = $design->field($key);
            $sql = $field === null || $rest !== [] ? null : $this->sql($layer, $field);
            if ($sql !== null) {
                DB::update("update {$layer->table()} set `{$field->column()}` = $sql");
            } elseif ($field !== null && ! ($rest === [] && ! isset($design->rules->show[$key]) && isset($design->rules->formulas[$key]) && AreasInBulk::run($layer, $field, $design->rules->formulas[$key]))) {
                $rest[] = $field;
            }
        }
        if ($rest !== []) {
            $this->oneByOne($layer, $rest);
        }
    }

    private function sql(Layer $layer, Field $field): ?string
    {
        $design = $layer->design();
        $formula = $design->rules->formulas[$field->key] ?? null;
        $show = $design->rules->show[$field->key] ?? null;
        $zone = new \DateTimeZone($layer->programme->time_zone);
        $quote = static fn (string $text): string => DB::connection()->getPdo()->quote($text);
        $of = static fn ($f): ?string => FormulaSql::of($f, $design, $zone, now()->toDateTimeImmutable(), $quote, VisitSql::of($layer));
        $sql = $formula === null ? null : $of($formula);
        if ($sql === null || $show !== null && $of($show) === null) {
            return null;
        }
        // What SQL has as the text of a moment goes into a column of its own kind.
        if ($field->valueKind() === \PinYard\Design\FieldKind::DateTime) {
            $sql = "replace(replace($sql, 'T', ' '), 'Z', '')";
        }

        return $show === null ? $sql : "case when {$of($show)} then $sql end";
    }

    /** @param  list<Field>  $fields */
    private function oneByOne(Layer $layer, array $fields): void
    {
        $design = $layer->design();
        $last = '';
        do {
            $rows = DB::table($layer->table())->where('id', '>', $last)->orderBy('id')->limit(self::ROWS)->get();
            $around = Around::rows($layer, $design, $rows, $design->rules->visited());
            foreach ($rows as $row) {
                $in = $around->at($row);
                $values = ValueCheck::against($design, $in->values, $in, $in->values)->values;
                $set = [];
                foreach ($fields as $field) {
                    $set[$field->column()] = StoredValue::toColumn($field->valueKind(), $values[$field->key] ?? null);
                }
                DB::table($layer->table())->where('id', $row->id)->update($set);
                $last = $row->id;
            }
        } while ($rows->count() === self::ROWS);
    }
}
