<?php

declare(strict_types=1);

namespace App\Records\Bits;

use App\Layers\LayerRows;
use App\Models\Layer;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Facades\DB;
use PinYard\Bits\Coder;
use PinYard\Bits\NotByBits;

/** Goes through all records of a layer and writes down what is counted by bits, as of its latest change. */
final class BuildBits implements ShouldBeUnique, ShouldQueue
{
    use Dispatchable;
    use Queueable;

    /** A layer of fewer records is asked as quickly. */
    public const LEAST = 20_000;

    /** A larger one is asked: the file would be larger than what is kept at once in memory. */
    private const MOST = 5_000_000;

    private const ROWS = 20_000;

    public int $timeout = 1_800;

    /** A worker that was killed does not keep the next from it for longer. */
    public int $uniqueFor = 1_800;

    public function __construct(private readonly int $layer, private readonly int $least = self::LEAST)
    {
        $this->onQueue('slow');
    }

    public function uniqueId(): string
    {
        return (string) $this->layer;
    }

    public function handle(): void
    {
        // All of one moment: what is written meanwhile has a greater number and is read beside it.
        DB::statement('set transaction isolation level repeatable read');
        [$layer, $token] = DB::transaction(fn (): array => $this->read());
        if ($layer === null) {
            return;
        }
        $before = LayerBits::find($layer->id);
        LayerBits::point($layer, $token);
        if ($before?->token !== null) {
            // Whoever has it open reads on.
            @unlink(LayerBits::path($before->token));
        }
    }

    /** @return array{Layer|null, string|null} */
    private function read(): array
    {
        $layer = Layer::query()->with('programme')->find($this->layer);
        if ($layer === null) {
            return [null, null];
        }
        $count = LayerRows::live($layer)->count();
        if ($count < $this->least || $count > self::MOST) {
            return [$layer, null];
        }
        $columns = BitColumn::all($layer);
        /** @var array<string, Coder> $coders */
        $coders = [];
        $select = ['id'];
        foreach ($columns as $i => $column) {
            $coders[$column->key] = $column->coder();
            $select[] = "$column->sql as c$i";
        }
        $ids = fopen('php://temp/maxmemory:4194304', 'w+') ?: throw new \RuntimeException('no room');
        $slots = 0;
        for ($last = null; ; $last = $rows[count($rows) - 1]->id) {
            $rows = LayerRows::live($layer)
                ->when($last !== null, static fn ($q) => $q->where('id', '>', $last))
                ->orderBy('id')->limit(self::ROWS)->selectRaw(implode(', ', $select))->get()->all();
            $slots += count($rows);
            fwrite($ids, implode('', array_column($rows, 'id')));
            foreach ($columns as $i => $column) {
                if (isset($coders[$column->key])) {
                    try {
                        $coders[$column->key]->add(array_column($rows, "c$i"));
                    } catch (NotByBits) {
                        unset($coders[$column->key]);
                    }
                }
            }
            if (count($rows) < self::ROWS) {
                break;
            }
        }
        $sets = [];
        foreach ($coders as $key => $coder) {
            try {
                $sets[$key] = $coder->done();
            } catch (NotByBits) {
                // It is asked of the records.
            }
            unset($coders[$key]);
        }
        $token = bin2hex(random_bytes(16));
        BitFile::write(LayerBits::path($token), $ids, $slots, $sets);

        return [$layer, $token];
    }
}
