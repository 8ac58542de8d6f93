<?php

declare(strict_types=1);

namespace App\Records;

use App\Formulas\AfterVisits;
use App\Formulas\Around;
use App\Models\Layer;
use App\Models\User;
use App\Rights\LayerRights;
use App\Storage\AreasLink;
use App\Storage\CarryOver;
use App\Storage\PlaceColumns;
use App\Storage\Records;
use App\Storage\StoredValue;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use PinYard\Design\AltitudeRules;
use PinYard\Design\FieldKind;
use PinYard\Design\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;
use PinYard\Problem;
use PinYard\Record\Merge;
use PinYard\Record\OneValue;
use PinYard\Record\RecordId;
use PinYard\Record\ValueCheck;
use PinYard\Refused;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/**
 * Changes to one record from the desk: values, place, deletion, an earlier version taken up again.
 * Each makes a new version under the layer's lock, so that phones hear of it in order; nothing is overwritten in history.
 */
final readonly class RecordEdit
{
    /** @param  User|null  $author  whose work it is, where somebody else only lets it in */
    public function __construct(private User $user, private int $layer, private ?User $author = null)
    {
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
        return $this->locked($record, function (Layer $layer, object $row, LayerRights $rights) use ($base, $values, $geometry, $altitude): array {
            if ($row->deleted) {
                throw Refused::because('record_deleted', 'record');
            }
            self::allow($rights->mayChange($row->created_by));
            $design = $layer->design();
            $present = Records::values($design, $row);
            foreach (array_keys($values) as $key) {
                if ($design->field((string) $key) === null) {
                    throw Refused::because('field_unknown', (string) $key, null, ['key' => (string) $key]);
                }
            }
            // What is calculated is nobody's change.
            $values = array_filter($values, static fn (string $key): bool => $design->field($key)?->kind !== FieldKind::Calculated, ARRAY_FILTER_USE_KEY);
            $merge = Merge::of($this->valuesAt($layer, $row, $base) ?? $present, $present, $values);
            if ($merge->clashes !== []) {
                throw Refused::for(array_map(static fn (string $key): Problem => new Problem('value_clash', $key, null, [
                    'label' => $design->field($key)->label ?? $key, 'theirs' => StoredValue::shown($design->field($key), $row->{$layer->columnOf($key)}) ?? '–',
                ]), $merge->clashes));
            }
            $shape = $geometry === null ? PlaceColumns::shape($row, $design->geometry) : Shape::fromGeoJson($geometry, $design->geometry);
            $row->altitude = $altitude === null ? $row->altitude : self::altitude($altitude[0]);

            return $this->write($layer, $row, 'change', $this->judged($layer, $row, $merge->values, $shape, $present), $shape);
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
        return $this->locked($record, function (Layer $layer, object $row, LayerRights $rights) use ($values, $shape): array {
            self::allow($rights->mayChange($row->created_by));
            $design = $layer->design();
            $merged = Records::values($design, $row);
            foreach ($values as $key => $value) {
                $field = $design->field($key);
                if ($field !== null && $field->kind !== FieldKind::Calculated && OneValue::isOfKind($field, $value)) {
                    $merged[$key] = $value;
                }
            }
            $present = PlaceColumns::shape($row, $design->geometry);
            $shape = $shape === null || $shape->kind !== $design->geometry ? $present : $shape;
            $worked = ValueCheck::against($design, $merged, Around::row($layer, $design, $row)->at($shape, $row->altitude), $merged)->values;
            foreach ($design->valueFields() as $field) {
                if ($field->kind === FieldKind::Calculated) {
                    $merged[$field->key] = $worked[$field->key] ?? null;
                }
            }

            return $this->write($layer, $row, 'change', $merged, $shape);
        });
    }

    /** @return array<string, mixed> */
    public function delete(string $record): array
    {
        return $this->locked($record, function (Layer $layer, object $row, LayerRights $rights): array {
            self::allow($rights->mayDelete($row->created_by));

            return $row->deleted ? [] : $this->write($layer, $row, 'delete', Records::values($layer->design(), $row), PlaceColumns::shape($row, $layer->design()->geometry), true);
        });
    }

    /**
     * Brings back a deleted record, or takes up an earlier version again; fields that it did not have keep their values.
     *
     * @return array<string, mixed>
     */
    public function restore(string $record, ?int $version): array
    {
        return $this->locked($record, function (Layer $layer, object $row, LayerRights $rights) use ($version): array {
            self::allow($row->deleted ? $rights->mayDelete($row->created_by) : $rights->mayChange($row->created_by));
            $present = Records::values($layer->design(), $row);
            $shape = PlaceColumns::shape($row, $layer->design()->geometry);
            if ($version !== null) {
                $then = Versions::find($layer, $row->id, $version);
                if ($then === null) {
                    throw Refused::because('version_unknown', 'version', $version);
                }
                $shape = PlaceColumns::shape($then, $layer->design()->geometry);
                $row->altitude = $then->altitude;
                $in = Around::row($layer, $layer->design(), $row)->at($shape, $row->altitude);
                // By today's design: a value of a kind that its field no longer has is turned, or stays in the history alone.
                $earlier = (new CarryOver($layer))->carried($then->design_version, $then->values, $in);
                foreach ($layer->design()->valueFields() as $field) {
                    if (array_key_exists($field->key, $earlier) && OneValue::isOfKind($field, $earlier[$field->key])) {
                        $present[$field->key] = $earlier[$field->key];
                    }
                }
            }

            // What was once accepted is taken up as it was, even where today's design asks for more.
            return $this->write($layer, $row, 'restore', $present, $shape);
        });
    }

    /**
     * @param  \Closure(Layer, object, LayerRights): array<string, mixed>  $do
     * @return array<string, mixed>
     */
    private function locked(string $record, \Closure $do): array
    {
        $id = RecordId::of($record)->bytes();

        // Read before: an unlocked read inside would fix what the transaction sees to a moment before it holds the lock.
        $visits = Layer::query()->where('id', $this->layer)->value('visits_of');

        return DB::transaction(function () use ($id, $do, $visits): array {
            // What is visited first, as a sync round does.
            $visited = $visits === null ? null : Layer::query()->with('programme')->lockForUpdate()->findOrFail($visits);
            $layer = Layer::query()->with('programme')->lockForUpdate()->findOrFail($this->layer);
            $layer->setRelation('visited', $visited);
            $rights = LayerRights::of($this->user, $layer);
            $row = DB::table($layer->table())->where('id', $id)->first();
            if ($row === null || ! $rights->maySee() || ! $rights->seesAll() && $row->created_by !== $this->user->id) {
                throw new NotFoundHttpException;
            }

            return $do($layer, $row, $rights);
        }, 5);
    }

    private static function altitude(mixed $metres): ?float
    {
        if ($metres !== null && (! is_int($metres) && ! is_float($metres) || $metres < AltitudeRules::LOWEST || $metres > AltitudeRules::HIGHEST)) {
            throw Refused::because(is_int($metres) || is_float($metres) ? 'altitude_range' : 'altitude_number', 'altitude', is_scalar($metres) ? $metres : null, [
                'value' => is_scalar($metres) ? $metres : '', 'lowest' => AltitudeRules::LOWEST, 'highest' => AltitudeRules::HIGHEST,
            ]);
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
    private function valuesAt(Layer $layer, object $row, int $version): ?array
    {
        if ($version >= $row->version) {
            return null;
        }

        return Versions::find($layer, $row->id, $version)->values ?? throw Refused::because('version_unknown', 'base', $version);
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, mixed>  $was
     * @return array<string, string|int|float|bool|list<string>|null>
     */
    private function judged(Layer $layer, object $row, array $values, Shape $shape, array $was): array
    {
        $in = Around::row($layer, $layer->design(), $row)->at($shape, $row->altitude);
        $check = ValueCheck::against($layer->design(), $values, $in, $was);
        if ($check->problems !== []) {
            throw Refused::for($check->problems);
        }

        return $check->values;
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @return array<string, mixed>
     */
    private function write(Layer $layer, object $row, string $kind, array $values, Shape $shape, bool $deleted = false): array
    {
        $now = now()->format('Y-m-d H:i:s.v');
        $columns = [];
        foreach ($values as $key => $value) {
            $columns[$layer->columnOf($key)] = StoredValue::toColumn($layer->kindOf($key) ?? throw new \LogicException("no column for $key"), $value);
        }
        $drawn = $shape->kind === $layer->design()->geometry;
        // A record that has not been drawn yet keeps what it had: a line of former days may be wanted again.
        $place = $drawn ? PlaceColumns::of($shape, $layer->has_shapes) : ['lon' => $shape->place->lon, 'lat' => $shape->place->lat, 'z' => ZOrder::of($shape->place)];
        $version = $row->version + 1;
        $layer->change_number++;
        FirstHistory::keep($layer, [$row]);
        DB::table($layer->table())->where('id', $row->id)->update([
            ...$columns, ...$place, 'altitude' => $row->altitude, 'version' => $version, 'change_number' => $layer->change_number,
            'design_version' => $layer->design_version, 'deleted' => $deleted,
        ]);
        DB::table('record_history')->insert([
            'layer_id' => $layer->id, 'record_id' => $row->id, 'version' => $version, 'kind' => $kind, 'user_id' => $this->author->id ?? $this->user->id,
            'design_version' => $layer->design_version, 'captured_at' => $now, 'received_at' => $now,
            'lon' => $shape->place->lon, 'lat' => $shape->place->lat, 'altitude' => $row->altitude, 'shape' => $shape->kind === GeometryKind::Point ? ($row->shape ?? null) : Wkb::column($shape),
            'values' => json_encode($values, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
        ]);
        $layer->save();
        AreasLink::changed($layer);
        if ($layer->visited !== null) {
            AfterVisits::of($layer->visited, [$row->parent]);
        }

        return Records::present($layer, $layer->design(), [DB::table($layer->table())->where('id', $row->id)->first()])[0];
    }
}
