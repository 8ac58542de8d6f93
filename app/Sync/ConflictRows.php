<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\User;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Sync\ClashedValue;
use PinYard\Sync\Decision;
use PinYard\Sync\Outcome;

/** Keeps whole what a person must decide: clashes and what is held; runs inside the batch's transaction. */
final class ConflictRows
{
    /** @var list<array<string, mixed>> */
    private array $rows = [];

    public function __construct(private readonly User $user)
    {
    }

    /** @param  mixed  $raw  the operation as it came */
    public function add(Decision $decision, mixed $raw): void
    {
        if ($decision->outcome !== Outcome::Clash && $decision->outcome !== Outcome::Held) {
            return;
        }
        $op = $decision->operation;
        $json = static fn (mixed $of): string => json_encode(
            $of,
            JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION,
        );
        $this->rows[] = [
            'layer_id' => $op->layer,
            'record_id' => $op->record->bytes(),
            'op' => $op->op->bytes(),
            'user_id' => $this->user->id,
            'kind' => $decision->outcome->value,
            'operation' => $json([...(array) $raw, 'device' => $op->device->text]),
            'clashes' => $decision->clashes === []
                    ? null
                    : $json(array_map(static fn (ClashedValue $c): array => $c->toArray(), $decision->clashes)),
            'reasons' => $decision->problems === [] ? null : $json(Texts::problems($decision->problems)),
            'captured_at' => $op->capturedAt->format('Y-m-d H:i:s.v'),
            'received_at' => now()->format('Y-m-d H:i:s.v'),
        ];
    }

    public function write(): void
    {
        foreach (array_chunk($this->rows, 200) as $rows) {
            DB::table('disputes')->insert($rows);
        }
    }
}
