<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Layer;
use App\Models\User;
use App\Rights\LayerRights;
use App\Storage\CarryOver;
use App\Storage\Records;
use App\Storage\StoredValue;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Support\Facades\DB;
use PinYard\Design\FieldKind;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Position;
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
    public function __construct(private User $user, private int $layer)
    {
    }

    /**
     * @param  array<mixed>  $values  only what was changed
     * @return array<string, mixed> the record as it is now
     *
     * @throws Refused
     */
    public function change(string $record, int $base, array $values, mixed $geometry): array
    {
        return $this->locked($record, function (Layer $layer, object $row, LayerRights $rights) use ($base, $values, $geometry): array {
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
            $position = $geometry === null ? Position::of($row->lon, $row->lat) : Position::fromGeoJson($geometry);

            return $this->write($layer, $row, 'change', $this->judged($layer, $merge->values, $position, $present), $position);
        });
    }

    /** @return array<string, mixed> */
    public function delete(string $record): array
    {
        return $this->locked($record, function (Layer $layer, object $row, LayerRights $rights): array {
            self::allow($rights->mayDelete($row->created_by));

            return $row->deleted ? [] : $this->write($layer, $row, 'delete', Records::values($layer->design(), $row), Position::of($row->lon, $row->lat), true);
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
            $position = Position::of($row->lon, $row->lat);
            if ($version !== null) {
                $then = DB::table('record_history')->where(['layer_id' => $layer->id, 'record_id' => $row->id, 'version' => $version])->first();
                if ($then === null) {
                    throw Refused::because('version_unknown', 'version', $version);
                }
                $position = Position::of($then->lon, $then->lat);
                $in = new Surroundings([], now()->toDateTimeImmutable(), new \DateTimeZone($layer->programme->time_zone), [], $position->lon, $position->lat);
                // By today's design: a value of a kind that its field no longer has is turned, or stays in the history alone.
                $earlier = (new CarryOver($layer))->carried($then->design_version, (array) json_decode($then->values, true), $in);
                foreach ($layer->design()->valueFields() as $field) {
                    if (array_key_exists($field->key, $earlier) && OneValue::isOfKind($field, $earlier[$field->key])) {
                        $present[$field->key] = $earlier[$field->key];
                    }
                }
            }

            // What was once accepted is taken up as it was, even where today's design asks for more.
            return $this->write($layer, $row, 'restore', $present, $position);
        });
    }

    /**
     * @param  \Closure(Layer, object, LayerRights): array<string, mixed>  $do
     * @return array<string, mixed>
     */
    private function locked(string $record, \Closure $do): array
    {
        $id = RecordId::of($record)->bytes();

        return DB::transaction(function () use ($id, $do): array {
            $layer = Layer::query()->with('programme')->lockForUpdate()->findOrFail($this->layer);
            $rights = LayerRights::of($this->user, $layer);
            $row = DB::table($layer->table())->where('id', $id)->first();
            if ($row === null || ! $rights->maySee() || ! $rights->seesAll() && $row->created_by !== $this->user->id) {
                throw new NotFoundHttpException;
            }

            return $do($layer, $row, $rights);
        }, 5);
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
        $values = DB::table('record_history')->where(['layer_id' => $layer->id, 'record_id' => $row->id, 'version' => $version])->value('values');

        return $values === null ? throw Refused::because('version_unknown', 'base', $version) : (array) json_decode($values, true);
    }

    /**
     * @param  array<string, mixed>  $values
     * @param  array<string, mixed>  $was
     * @return array<string, string|int|float|bool|list<string>|null>
     */
    private function judged(Layer $layer, array $values, Position $position, array $was): array
    {
        $in = new Surroundings([], now()->toDateTimeImmutable(), new \DateTimeZone($layer->programme->time_zone), [], $position->lon, $position->lat);
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
    private function write(Layer $layer, object $row, string $kind, array $values, Position $position, bool $deleted = false): array
    {
        $now = now()->format('Y-m-d H:i:s.v');
        $columns = [];
        foreach ($values as $key => $value) {
            $columns[$layer->columnOf($key)] = StoredValue::toColumn($layer->kindOf($key) ?? throw new \LogicException("no column for $key"), $value);
        }
        $place = ['lon' => $position->lon, 'lat' => $position->lat];
        $version = $row->version + 1;
        $layer->change_number++;
        DB::table($layer->table())->where('id', $row->id)->update([
            ...$columns, ...$place, 'z' => ZOrder::of($position), 'version' => $version, 'change_number' => $layer->change_number,
            'design_version' => $layer->design_version, 'deleted' => $deleted,
        ]);
        DB::table('record_history')->insert([
            'layer_id' => $layer->id, 'record_id' => $row->id, 'version' => $version, 'kind' => $kind, 'user_id' => $this->user->id,
            'design_version' => $layer->design_version, 'captured_at' => $now, 'received_at' => $now, ...$place,
            'values' => json_encode($values, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
        ]);
        $layer->save();

        return Records::present($layer, $layer->design(), [DB::table($layer->table())->where('id', $row->id)->first()])[0];
    }
}
