<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use App\Models\Attachment;
use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Sharpness;
use PinYard\Board\Quantity;
use PinYard\Refused;

/** What is measured of a record as SQL says it, for one viewer. */
final readonly class QuantitySql
{
    /** @param  \Closure(Builder): mixed  $join  what must be joined for it */
    private function __construct(public string $expression, private \Closure $join)
    {
    }

    /** @throws Refused where the viewer may not know it */
    public static function of(Quantity $quantity, VisibleRecords $records): self
    {
        $nothing = static function (): void {
        };
        $field = $quantity->field;
        if ($field !== null) {
            if (! $records->shows($field->key)) {
                throw Refused::because('tile_hidden', 'measure');
            }
            $column = $field->column();

            return new self(match (true) {
                // In doubles, or a mean of whole numbers would have four decimals.
                $field->valueKind()->isNumber() => "$column * 1e0",
                $field->valueKind()->isText() => "nullif($column, '')",
                default => $column,
            }, $nothing);
        }
        if ($quantity->key === Quantity::PERSON && $records->viewer->isLink()) {
            throw Refused::because('tile_hidden', 'measure');
        }
        if (in_array($quantity->key, [Quantity::LENGTH, Quantity::AREA], true)
            && $records->sight->place !== Sharpness::Exact) {
            throw Refused::because('tile_hidden', 'measure');
        }

        return match ($quantity->key) {
            Quantity::LENGTH => new self('length_m', $nothing),
            Quantity::AREA => new self('area_m2', $nothing),
            Quantity::VISITS => new self('coalesce(visits_to.visits, 0)', self::visits($records)),
            Quantity::PHOTOS => new self('coalesce(photos_of.photos, 0)', self::photos($records)),
            default => new self('created_by', $nothing),
        };
    }

    public function join(Builder $rows): Builder
    {
        ($this->join)($rows);

        return $rows;
    }

    /** @return \Closure(Builder): Builder */
    private static function visits(VisibleRecords $records): \Closure
    {
        $visits = $records->layer->visitsLayer;
        $visible = $visits === null ? null : VisibleRecords::of($records->viewer, $visits);
        if ($visible === null || $visible->seesNothing()) {
            throw Refused::because('tile_hidden', 'measure');
        }

        return static fn (Builder $rows) => $rows->leftJoinSub(
            $visible->visitsByRecord(),
            'visits_to',
            'visits_to.visited',
            '=',
            'id',
        );
    }

    /** @return \Closure(Builder): Builder */
    private static function photos(VisibleRecords $records): \Closure
    {
        if (! $records->sight->photos) {
            throw Refused::because('tile_hidden', 'measure');
        }

        $until = $records->layer->stoodUntil();

        return static fn (Builder $rows) => $rows->leftJoinSub(
            DB::table((new Attachment)->getTable())
                ->where('layer_id', $records->layer->id)
                ->where('state', '!=', 'removed')
                ->where('type', 'like', 'image/%')
                ->when($until !== null, static fn (Builder $q) => $q->where('created_at', '<', $until))
                ->groupBy('record_id')
                ->selectRaw('record_id as photographed, count(*) as photos'),
            'photos_of',
            'photos_of.photographed',
            '=',
            'id',
        );
    }
}
