<?php

declare(strict_types=1);

namespace App\Records\Bits;

use App\Layers\LayerRows;
use App\Models\Layer;
use PinYard\Bits\ChoiceSlots;
use PinYard\Bits\NotByBits;
use PinYard\Bits\NumberSlots;
use PinYard\Bits\Slots;

/**
 * The records of a large layer as slots, exact to its last change: those that have changed since the file was built are
 * taken out of its sets, and stand in slots of their own behind them. It knows all records; which of them a viewer may
 * know is decided by the one reader (VisibleRecords).
 */
final class BitLayer
{
    /** More changed records than this are not read beside the file. */
    private const MOST_CHANGED = 20_000;

    /** @var array<string, NumberSlots|ChoiceSlots> */
    private array $read = [];

    /** @var list<string> ids of the slots behind those of the file */
    private array $changed;

    /** @var array<string, list<mixed>> what those have, by column */
    private array $values = [];

    /** Slots of the file whose records are as they were. */
    private readonly \GMP $kept;

    private readonly \GMP $all;

    /** @param  list<BitColumn>  $columns */
    private function __construct(private readonly BitFile $file, array $columns, Layer $layer, int $asOf)
    {
        $gone = $this->changed = [];
        foreach ($asOf === $layer->change_number ? [] : self::changes($layer, $columns, $asOf) as $row) {
            $slot = $file->slotOf($row->id);
            if ($slot !== null) {
                $gone[] = $slot;
            }
            if (! $row->deleted) {
                $this->changed[] = $row->id;
                foreach ($columns as $i => $column) {
                    $this->values[$column->key][] = $row->{"c$i"};
                }
            }
        }
        $this->kept = Slots::without(Slots::all($file->slots), Slots::of($gone));
        $this->all = $this->kept | (Slots::all(count($this->changed)) << $file->slots);
        $this->columns = array_column($columns, null, 'key');
    }

    /** @var array<string, BitColumn> */
    private readonly array $columns;

    /** @return self|null null where it is not counted by bits, or too much has changed since */
    public static function of(Layer $layer): ?self
    {
        if ($layer->stands() !== null) {
            return null;
        }
        $at = LayerBits::find($layer->id);
        if (
            $at?->token === null
            || $at->design_version !== $layer->design_version
            || $at->time_zone !== $layer->programme->time_zone
            || $at->as_of > $layer->change_number
        ) {
            return null;
        }
        $file = BitFile::open(LayerBits::path($at->token));
        try {
            return $file === null ? null : new self($file, BitColumn::all($layer), $layer, $at->as_of);
        } catch (NotByBits) {
            return null;
        }
    }

    /**
     * @param  list<BitColumn>  $columns
     * @return list<\stdClass>
     */
    private static function changes(Layer $layer, array $columns, int $asOf): array
    {
        $select = ['id', 'deleted'];
        foreach ($columns as $i => $column) {
            $select[] = "$column->sql as c$i";
        }
        $rows = LayerRows::all($layer)->where('change_number', '>', $asOf)->limit(self::MOST_CHANGED + 1)
            ->selectRaw(implode(', ', $select))->get()->all();

        return count($rows) > self::MOST_CHANGED ? throw new NotByBits('too many changes') : array_values($rows);
    }

    /** Slots of all records that are not deleted. */
    public function all(): \GMP
    {
        return $this->all;
    }

    /** @throws NotByBits where it is not kept */
    public function numbers(string $key): NumberSlots
    {
        $column = $this->column($key);

        return $column instanceof NumberSlots ? $column : throw new NotByBits($key);
    }

    /** @throws NotByBits where it is not kept */
    public function choices(string $key): ChoiceSlots
    {
        $column = $this->column($key);

        return $column instanceof ChoiceSlots ? $column : throw new NotByBits($key);
    }

    private function column(string $key): NumberSlots|ChoiceSlots
    {
        return $this->read[$key] ??= $this->joined($key);
    }

    private function joined(string $key): NumberSlots|ChoiceSlots
    {
        $file = $this->file->column($key);
        $slots = $this->file->slots;
        $isNumber = $file instanceof NumberSlots;
        $coder = ($this->columns[$key] ?? throw new NotByBits($key))->coder($isNumber ? $file->decimals : 0);
        $coder->add($this->values[$key] ?? []);
        $changed = $coder->done();

        return match (true) {
            $isNumber && $changed instanceof NumberSlots => $file->followedBy($slots, $this->kept, $changed),
            ! $isNumber && $changed instanceof ChoiceSlots => $file->followedBy($slots, $this->kept, $changed),
            default => throw new NotByBits($key),
        };
    }

    /** @return list<string> ids of 16 bytes */
    public function ids(\GMP $set): array
    {
        return array_map(
            fn (int $slot): string => $slot < $this->file->slots
                ? $this->file->idIn($slot)
                : $this->changed[$slot - $this->file->slots],
            Slots::list($set),
        );
    }
}
