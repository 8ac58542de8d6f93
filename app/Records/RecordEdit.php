<?php

declare(strict_types=1);

namespace App\Records;

use App\Formulas\FormulaContext;
use App\Layers\CarryOver;
use App\Layers\LayerRows;
use App\Layers\PlaceColumns;
use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Layer;
use App\Models\User;
use App\Rights\LayerRights;
use App\Texts;
use Illuminate\Auth\Access\AuthorizationException;
use PinYard\Design\AltitudeRules;
use PinYard\Design\FieldKind;
use PinYard\Design\ValueRule;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;
use PinYard\Problem;
use PinYard\Record\Merge;
use PinYard\Record\RecordId;
use PinYard\Record\ValueCheck;
use PinYard\Refused;
use stdClass;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/**
 * Changes to one record from the desk: values, place, deletion, an earlier version taken up again. Each makes a new
 * version under the layer's lock, so that phones hear of it in order; nothing is overwritten in history.
 */
final readonly class RecordEdit
{
    /** @param  User|null  $author  whose work it is, where somebody else only lets it in */
    public function __construct(
        private User $user,
        private int $layer,
        private ?User $author = null,
        private Cause $cause = Cause::Desk,
    ) {
    }

    /**
     * @param  array<mixed>  $values  only what was changed
     * @param  array{mixed}|null  $altitude  metres or none, where that was changed
     * @return array<string, mixed> the record as it is now
     *
     * @throws Refused
     */
    public function change(string $record, int $base, array $values, mixed $geometry, ?array $altitude = null): array
    {
        return $this->locked($record, function (RecordWriter $writer, stdClass $row, LayerRights $rights) use (
            $base,
            $values,
            $geometry,
            $altitude,
        ): array {
            $layer = $writer->layer;
            $was = clone $row;
            if ($row->deleted) {
                throw Refused::because('record_deleted', 'record');
            }
            self::allow($rights->mayChange($row->created_by));
            $design = $layer->design();
            $present = StoredRow::values($design, $row);
            foreach (array_keys($values) as $key) {
                if ($design->field((string) $key) === null) {
                    throw Refused::because('field_unknown', (string) $key, null, ['key' => (string) $key]);
                }
            }
            // What is calculated is nobody's change.
            $values = array_filter(
                $values,
                static fn (string $key): bool => $design->field($key)?->kind !== FieldKind::Calculated,
                ARRAY_FILTER_USE_KEY,
            );
            $merge = Merge::of($this->valuesAt($layer, $row, $base) ?? $present, $present, $values);
            if ($merge->clashes !== []) {
                throw Refused::for(
                    array_map(
                        static fn (string $key): Problem => new Problem('value_clash', $key, null, [
                            'label' => $design->field($key)->label ?? $key,
                            'theirs' => ($field = $design->field($key)) === null
                                ? '–'
                                : StoredValue::shown($field, $row->{$layer->columnOf($key)}) ?? '–',
                        ]),
                        $merge->clashes,
                    ),
                );
            }
            $there = PlaceColumns::shape($row, $design->geometry);
            $shape = $geometry === null ? $there : Shape::fromGeoJson($geometry, $design->geometry);
            $high = $altitude === null ? $row->altitude : self::altitude($altitude[0]);
            $this->allowPlace(
                $layer,
                $row,
                $base,
                $geometry === null ? null : $shape,
                $altitude === null ? null : [$high],
            );
            $row->altitude = $high;
            if ($geometry !== null && $shape->toGeoJson() != $there->toGeoJson()) {
                // Set on the map or typed: what a receiver said was said of the other place.
                $row->accuracy = $row->satellites = $row->fix_type = $row->fix_at = null;
            }

            return $this->write(
                $writer,
                $row,
                'change',
                $this->judged($layer, $row, $merge->values, $shape, $present),
                $shape,
                was: $was,
            );
        });
    }

    /**
     * Lets in a change that was held, though today's design asks for more: what its fields can hold, as it was.
     *
     * @param  array<string, mixed>  $values
     * @return array<string, mixed> the record as it is now
     */
    public function letIn(string $record, array $values, ?Shape $shape): array
    {
        return $this->locked($record, function (RecordWriter $writer, stdClass $row, LayerRights $rights) use (
            $values,
            $shape,
        ): array {
            $layer = $writer->layer;
            self::allow($rights->mayChange($row->created_by));
            $design = $layer->design();
            $merged = StoredRow::values($design, $row);
            foreach ($values as $key => $value) {
                $field = $design->field($key);
                if ($field !== null && $field->kind !== FieldKind::Calculated && ValueRule::isOfKind($field, $value)) {
                    $merged[$key] = $value;
                }
            }
            $present = PlaceColumns::shape($row, $design->geometry);
            $shape = $shape === null || $shape->kind !== $design->geometry ? $present : $shape;
            $worked = ValueCheck::against(
                $design,
                $merged,
                FormulaContext::row($layer, $design, $row)->at($shape, $row->altitude),
                $merged,
            )->values;
            foreach ($design->valueFields() as $field) {
                if ($field->kind === FieldKind::Calculated) {
                    $merged[$field->key] = $worked[$field->key] ?? null;
                }
            }

            return $this->write($writer, $row, 'change', $merged, $shape);
        });
    }

    /**
     * @param  int|null  $visits  how many visits to it the person knew of, where that was said
     * @return array<string, mixed>
     *
     * @throws Refused
     */
    public function delete(string $record, ?int $visits = null): array
    {
        return $this->locked($record, function (RecordWriter $writer, stdClass $row, LayerRights $rights) use (
            $visits,
        ): array {
            $layer = $writer->layer;
            self::allow($rights->mayDelete($row->created_by));
            $there =
                $visits === null || $layer->visitsLayer === null
                    ? 0
                    : LayerRows::live($layer->visitsLayer)->where('parent', $row->id)->count();
            if ($visits !== null && $there > $visits) {
                throw Refused::because('visited_since', 'record', null, ['visits' => $there, 'known' => $visits]);
            }

            return $row->deleted
                ? []
                : $this->write(
                    $writer,
                    $row,
                    'delete',
                    StoredRow::values($layer->design(), $row),
                    PlaceColumns::shape($row, $layer->design()->geometry),
                    true,
                );
        });
    }

    /** A record that was deleted while somebody was on the way to it comes back as it was, whoever may delete. */
    public function bringBack(string $record): void
    {
        $this->locked(
            $record,
            fn (RecordWriter $writer, stdClass $row): array => $row->deleted
                ? $this->write(
                    $writer,
                    $row,
                    'restore',
                    StoredRow::values($writer->layer->design(), $row),
                    PlaceColumns::shape($row, $writer->layer->design()->geometry),
                )
                : [],
        );
    }

    /**
     * Brings back a deleted record, or takes up an earlier version again; fields that it did not have keep their
     * values.
     *
     * @return array<string, mixed>
     */
    public function restore(string $record, ?int $version): array
    {
        return $this->locked($record, function (RecordWriter $writer, stdClass $row, LayerRights $rights) use (
            $version,
        ): array {
            $layer = $writer->layer;
            $was = clone $row;
            self::allow($row->deleted ? $rights->mayDelete($row->created_by) : $rights->mayChange($row->created_by));
            $present = StoredRow::values($layer->design(), $row);
            $shape = PlaceColumns::shape($row, $layer->design()->geometry);
            if ($version !== null) {
                $then = Versions::find($layer, $row->id, $version);
                if ($then === null) {
                    throw Refused::because('version_unknown', 'version', $version);
                }
                $shape = PlaceColumns::shape($then, $layer->design()->geometry);
                $row->altitude = $then->altitude;
                $in = FormulaContext::row($layer, $layer->design(), $row)->at($shape, $row->altitude);
                // By today's design: a value of a kind that its field no longer has is turned, or stays in the history
                // alone.
                $earlier = (new CarryOver($layer))->carried($then->design_version, $then->values, $in);
                foreach ($layer->design()->valueFields() as $field) {
                    if (array_key_exists($field->key, $earlier) && ValueRule::isOfKind($field, $earlier[$field->key])) {
                        $present[$field->key] = $earlier[$field->key];
                    }
                }
            }

            // What was once accepted is taken up as it was, even where today's design asks for more.
            return $this->write($writer, $row, 'restore', $present, $shape, was: $was);
        });
    }

    /**
     * @param  \Closure(RecordWriter, stdClass, LayerRights): array<string, mixed>  $do
     * @return array<string, mixed>
     */
    private function locked(string $record, \Closure $do): array
    {
        $id = RecordId::of($record)->bytes();

        return RecordWriter::locked($this->layer, $this->cause, $this->author->id ?? $this->user->id, function (
            RecordWriter $writer,
        ) use ($id, $do): array {
            $rights = LayerRights::of($this->user, $writer->layer);
            $row = $writer->records()->where('id', $id)->first();
            if (
                $row === null ||
                $writer->layer->trashed() ||
                ! $rights->maySee() ||
                ! VisibleRecords::for($this->user, $writer->layer)->withDeleted()->where('id', $id)->exists()
            ) {
                throw new NotFoundHttpException;
            }

            return $do($writer, $row, $rights);
        });
    }

    /**
     * Place and altitude are values too: what others made of them since is not overwritten.
     *
     * @param  array{float|null}|null  $altitude
     *
     * @throws Refused
     */
    private function allowPlace(Layer $layer, stdClass $row, int $base, ?Shape $shape, ?array $altitude): void
    {
        if ($base >= $row->version || ($shape === null && $altitude === null)) {
            return;
        }
        $then = Versions::find($layer, $row->id, $base) ?? throw Refused::because('version_unknown', 'base', $base);
        $kind = $layer->design()->geometry;
        $there = PlaceColumns::shape($row, $kind)->toGeoJson();
        $clashes = [];
        if (
            $shape !== null &&
            $there != PlaceColumns::shape($then, $kind)->toGeoJson() &&
            $there != $shape->toGeoJson()
        ) {
            $clashes[] = new Problem('value_clash', 'geometry', null, [
                'label' => Texts::of('record.place'),
                'theirs' => sprintf('%.5f, %.5f', $row->lat, $row->lon),
            ]);
        }
        $same = static fn (mixed $a, mixed $b): bool => $a === null || $b === null
            ? $a === $b
            : (float) $a === (float) $b;
        if ($altitude !== null && ! $same($row->altitude, $then->altitude) && ! $same($row->altitude, $altitude[0])) {
            $clashes[] = new Problem('value_clash', 'altitude', null, [
                'label' => Texts::of('altitude.label'),
                'theirs' => $row->altitude === null ? '–' : "$row->altitude m",
            ]);
        }
        if ($clashes !== []) {
            throw Refused::for($clashes);
        }
    }

    private static function altitude(mixed $metres): ?float
    {
        if (
            $metres !== null &&
            ((! is_int($metres) && ! is_float($metres)) ||
                $metres < AltitudeRules::LOWEST ||
                $metres > AltitudeRules::HIGHEST)
        ) {
            throw Refused::because(
                is_int($metres) || is_float($metres) ? 'altitude_range' : 'altitude_number',
                'altitude',
                is_scalar($metres) ? $metres : null,
                [
                    'value' => is_scalar($metres) ? $metres : '',
                    'lowest' => AltitudeRules::LOWEST,
                    'highest' => AltitudeRules::HIGHEST,
                ],
            );
        }

        return $metres === null ? null : (float) $metres;
    }

    private static function allow(bool $allowed): void
    {
        if (! $allowed) {
            throw new AuthorizationException;
        }
    }

    /** @return array<string, mixed>|null the values of an earlier version, as far as today's design has their fields */
    private function valuesAt(Layer $layer, stdClass $row, int $version): ?array
    {
        if ($version >= $row->version) {
            return null;
        }

        return Versions::find($layer, $row->id, $version)->values ??
            throw Refused::because('version_unknown', 'base', $version);
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, mixed>  $was
     * @return array<string, string|int|float|bool|list<string>|null>
     */
    private function judged(Layer $layer, stdClass $row, array $values, Shape $shape, array $was): array
    {
        $in = FormulaContext::row($layer, $layer->design(), $row)->at($shape, $row->altitude);
        $check = ValueCheck::against($layer->design(), $values, $in, $was);
        if ($check->problems !== []) {
            throw Refused::for($check->problems);
        }

        return $check->values;
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @param  stdClass|null  $was  the row as it stands, where the one that is written was changed on the way
     * @return array<string, mixed>
     */
    private function write(
        RecordWriter $writer,
        stdClass $row,
        string $kind,
        array $values,
        Shape $shape,
        bool $deleted = false,
        ?stdClass $was = null,
    ): array {
        $layer = $writer->layer;
        $now = now()->format('Y-m-d H:i:s.v');
        $columns = [];
        foreach ($values as $key => $value) {
            $columns[$layer->columnOf($key)] = StoredValue::toColumn(
                $layer->kindOf($key) ?? throw new \LogicException("no column for $key"),
                $value,
            );
        }
        $drawn = $shape->kind === $layer->design()->geometry;
        // A record that has not been drawn yet keeps what it had: a line of former days may be wanted again.
        $place = $drawn
            ? PlaceColumns::of($shape, $layer->has_shapes)
            : ['lon' => $shape->place->lon, 'lat' => $shape->place->lat, 'z' => ZOrder::of($shape->place)];
        $after = [
            ...(array) $row,
            ...$columns,
            ...$place,
            'version' => $row->version + 1,
            'change_number' => $writer->next(),
            'design_version' => $layer->design_version,
            'deleted' => (int) $deleted,
        ];
        $writer->write(
            [],
            [$after],
            [$was ?? $row],
            [
                [
                    'layer_id' => $layer->id,
                    'record_id' => $row->id,
                    'version' => $row->version + 1,
                    'kind' => $kind,
                    'user_id' => $this->author->id ?? $this->user->id,
                    'design_version' => $layer->design_version,
                    'captured_at' => $now,
                    'received_at' => $now,
                    'lon' => $shape->place->lon,
                    'lat' => $shape->place->lat,
                    'altitude' => $row->altitude,
                    'shape' => $shape->kind === GeometryKind::Point ? $row->shape ?? null : Wkb::column($shape),
                    'values' => json_encode($values, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
                ],
            ],
        );

        return RecordView::present(
            $layer,
            $layer->design(),
            $writer->records()->where('id', $row->id)->get(),
            $this->user,
        )[0];
    }
}
