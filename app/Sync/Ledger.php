<?php

declare(strict_types=1);

namespace App\Sync;

use App\Layers\BulkInsert;
use App\Models\User;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Problem;
use PinYard\Sync\Decision;
use PinYard\Sync\Operation;

/** Remembers the answer to every operation, so that asking again changes nothing. */
final class Ledger
{
    /** @var list<array<string, mixed>> */
    private array $rows = [];

    // The same for a whole batch, which comes from one phone.
    private ?string $device = null;

    private ?string $now = null;

    private readonly int $id;

    public function __construct(User $user)
    {
        $this->id = $user->id;
    }

    /**
     * @param  array<int, string>  $ops  16 bytes each
     * @return array<string, array<string, mixed>> answers given before, by operation
     */
    public function answers(array $ops): array
    {
        $answers = [];
        foreach (
            DB::table('sync_ledger')
                ->whereIn('op', array_values($ops))
                ->get(['op', 'user_id', 'answer']) as $row
        ) {
            $answers[$row->op] =
                $row->user_id === $this->id
                    ? self::again((array) json_decode($row->answer, true))
                    : [
                        'op' => null,
                        'outcome' => 'refused',
                        'problems' => Texts::problems([new Problem('op_taken', 'op')]),
                    ];
        }

        return $answers;
    }

    /**
     * Byte for byte what was answered the first time: an empty object is one again.
     *
     * @param  array<string, mixed>  $answer
     * @return array<string, mixed>
     */
    private static function again(array $answer): array
    {
        return isset($answer['problems']) && is_array($answer['problems'])
            ? [...$answer, 'problems' => array_map(
                static fn (array $p): array => [...$p, 'params' => (object) ($p['params'] ?? [])],
                $answer['problems'],
            )]
            : $answer;
    }

    /** @param  array<string, mixed>  $answer */
    public function note(Operation $operation, Decision $decision, array $answer): void
    {
        $this->rows[] = [
            'op' => $operation->op->bytes(),
            'layer_id' => $operation->layer,
            'user_id' => $this->id,
            'device' => $this->device ??= $operation->device->bytes(),
            'seq' => $operation->seq,
            'outcome' => $decision->outcome->value,
            'answer' => json_encode($answer, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
            'received_at' => $this->now ??= now()->format('Y-m-d H:i:s.v'),
        ];
    }

    public function write(): void
    {
        BulkInsert::into('sync_ledger', $this->rows);
    }
}
