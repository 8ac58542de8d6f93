<?php

declare(strict_types=1);

namespace App\Sync;

use App\DatabaseFailure;
use App\Formulas\AreaLookup;
use App\Layers\CarryOver;
use App\Models\FormerMember;
use App\Models\Layer;
use App\Models\Member;
use App\Models\User;
use App\Rights\LayerRights;
use App\Texts;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;
use PinYard\Sync\BatchDecider;
use PinYard\Sync\ClashedValue;
use PinYard\Sync\Decision;
use PinYard\Sync\LayerRules;
use PinYard\Sync\Operation;
use PinYard\Sync\Outcome;
use PinYard\Sync\PhoneClock;
use PinYard\Sync\RecordState;

/**
 * Takes in one batch of operations: each is answered exactly once, whatever is lost on the way.
 *
 * Everything of a batch is decided first and written in one transaction under the locks of its layers. An answer is
 * given only after the commit; an operation that was answered before gets the same answer again.
 */
final class SyncRound
{
    public const MOST_OPERATIONS = 2_000;

    /** Deadlocks and failed certification (error 1213) are tried again so often. */
    private const ATTEMPTS = 5;

    /**
     * @var array<int, array{Member|null, FormerMember|null, Layer}> what the person is, or was, in the programme of a
     *     layer
     */
    private array $standing = [];

    public function __construct(
        private readonly User $user,
        private readonly RecordId $device,
        private readonly ?PhoneClock $clock = null,
    ) {
    }

    /**
     * @param  list<mixed>  $batch  operations as they came
     * @return list<array<string, mixed>> one answer each, in the batch's order
     */
    public function take(array $batch): array
    {
        $answers = [];
        $operations = [];
        foreach ($batch as $i => $raw) {
            try {
                $operations[$i] = Operation::read($raw, $this->device, $this->clock);
            } catch (Refused $e) {
                $answers[$i] = self::refusal(
                    is_array($raw) && is_string($raw['op'] ?? null) ? $raw['op'] : null,
                    $e->problems,
                );
            }
        }
        uasort($operations, static fn (Operation $a, Operation $b): int => $a->seq <=> $b->seq);

        if ($operations !== []) {
            try {
                $answers += $this->decideAndWrite($operations, $batch);
            } catch (QueryException $e) {
                self::rethrowIfAway($e);
                report($e);
                $answers += $this->oneByOne($operations, $batch);
            }
        }
        ksort($answers);

        return array_values($answers);
    }

    /**
     * The whole batch could not be written; what the database will not take must not hold up the others.
     *
     * @param  non-empty-array<int, Operation>  $operations
     * @param  list<mixed>  $batch
     * @return array<int, array<string, mixed>>
     */
    private function oneByOne(array $operations, array $batch): array
    {
        $answers = [];
        foreach ($operations as $i => $operation) {
            try {
                $answers += $this->decideAndWrite([$i => $operation], $batch);
            } catch (QueryException $e) {
                self::rethrowIfAway($e);
                report($e);
                $answers[$i] = self::refusal($operation->op->text, [new Problem('op_unwritable', 'op')]);
            }
        }

        return $answers;
    }

    /** A database that is away has decided nothing: the phone must hear that, and ask again. */
    private static function rethrowIfAway(QueryException $e): void
    {
        if (DatabaseFailure::isAway($e)) {
            throw $e;
        }
    }

    /**
     * @param  non-empty-array<int, Operation>  $operations
     * @param  list<mixed>  $batch  as it came, for what a person must decide
     * @return array<int, array<string, mixed>>
     */
    private function decideAndWrite(array $operations, array $batch): array
    {
        // Read before: an unlocked read inside would fix what the transaction sees to a moment before it holds the
        // locks,
        // and it would not see what a round that was given up by its phone has just written.
        $ids = array_values(array_unique(array_map(static fn (Operation $o): int => $o->layer, $operations)));
        // What is visited comes along: its calculated fields may change with a visit. That never changes for a layer.
        $ids = [
            ...$ids,
            ...array_map(
                intval(...),
                array_values(
                    Layer::withTrashed()->whereIn('id', $ids)->whereNotNull('visits_of')->pluck('visits_of')->all(),
                ),
            ),
        ];

        return DB::transaction(function () use ($operations, $batch, $ids): array {
            $layers = $this->lockLayers($ids);
            $ledger = new Ledger($this->user);
            $answers = [];
            $new = $revived = [];
            $known = $ledger->answers(array_map(static fn (Operation $o): string => $o->op->bytes(), $operations));
            foreach ($operations as $i => $operation) {
                $bytes = $operation->op->bytes();
                if (! isset($known[$bytes])) {
                    $new[$i] = $operation;
                    $known[$bytes] = ['twin' => $i];
                } elseif (! isset($known[$bytes]['twin'])) {
                    $answers[$i] = $known[$bytes];
                }
            }
            $states = RecordStates::of($this->user, $layers, $new);
            $writer = new BatchWriter($this->user, $states->rows);
            $disputes = new ConflictRows($this->user);
            $decider = new BatchDecider(
                $this->rules($layers, $new),
                TakenIds::among($layers, $new),
                VisitableRecords::among(
                    $this->user->id,
                    $layers,
                    $new,
                    array_map(fn (array $standing): bool => $this->sawAll($standing), $this->standing),
                ),
                $states->states,
                $states->held,
            );
            foreach ($new as $i => $operation) {
                $decision = $decider->decide($operation);
                $answers[$i] = $this->answer($decision);
                $ledger->note($operation, $decision, $answers[$i]);
                $writer->add($decision);
                $disputes->add($decision, $batch[$i]);
                if ($decision->revives) {
                    $revived[] = $decision;
                }
            }
            $writer->write($layers);
            $disputes->write();
            RevivedRecords::of($this->user, $revived, $layers);
            $ledger->write();
            foreach ($operations as $i => $operation) {
                // The same operation twice in one batch: one outcome, told twice.
                $answers[$i] ??= $answers[$known[$operation->op->bytes()]['twin']];
            }

            return $answers;
        }, self::ATTEMPTS);
    }

    /**
     * Locks in one order for all, so that two batches never wait for each other in a ring.
     *
     * @param  list<int>  $ids
     * @return array<int, Layer> those that this person may see, or might until leaving
     */
    private function lockLayers(array $ids): array
    {
        $layers = [];
        // What was collected for a layer that lies in the bin is kept with it, and is there when it comes back.
        foreach (
            Layer::withTrashed()->whereIn('id', $ids)->orderBy('id')->lockForUpdate()->with('programme')
                ->get() as $layer
        ) {
            $here = $layer->programme->memberFor($this->user);
            // Who has left may still bring what was done before; it is held.
            $left =
                $here === null
                    ? FormerMember::query()
                        ->where('programme_id', $layer->programme_id)
                        ->where('user_id', $this->user->id)
                        ->orderByDesc('left_at')
                        ->first()
                    : null;
            if ($here !== null || $left !== null) {
                $layers[$layer->id] = $layer;
                $this->standing[$layer->id] = [$here, $left, $layer];
            }
        }

        return $layers;
    }

    /**
     * @param  array<int, Layer>  $layers
     * @param  array<int, Operation>  $operations
     * @return array<int, LayerRules>
     */
    private function rules(array $layers, array $operations): array
    {
        $rules = [];
        foreach ($layers as $layer) {
            /** @var array<int, LayerDesign> $designs */
            $designs = [$layer->design_version => $layer->design()];
            [$here, $left] = $this->standing[$layer->id];
            $then = [];
            foreach ($operations as $operation) {
                $version = $operation->design;
                if ($operation->layer === $layer->id && $version >= 1 && $version <= $layer->design_version) {
                    $designs[$version] ??= $layer->design($version);
                    $then[$version] ??= LayerRights::allowed($here ?? $left, $layer, $designs[$version]);
                }
            }
            $carry = new CarryOver($layer);
            $zone = new \DateTimeZone($layer->programme->time_zone);
            $rules[$layer->id] = new LayerRules(
                $designs,
                $layer->design_version,
                LayerRights::allowed($here, $layer, $layer->design()),
                $zone,
                $layer->visits_of !== null,
                AreaLookup::in($layer->programme),
                $then,
                $here === null ? $left?->left_at->toDateTimeImmutable() : null,
                static function (int $version, array $values, ?RecordState $state) use ($carry, $zone): array {
                    [$changes, $unfit] = $carry->changes($version, $values);

                    return [
                        $state === null
                            ? $carry->carried(
                                $version,
                                $values,
                                new Surroundings([], now()->toDateTimeImmutable(), $zone),
                            )
                            : $changes,
                        $unfit,
                    ];
                },
            );
        }

        return $rules;
    }

    /** @param  array{Member|null, FormerMember|null, Layer}  $standing */
    private function sawAll(array $standing): bool
    {
        [$here, $left, $layer] = $standing;

        return LayerRights::sawOthers($here ?? $left, $layer);
    }

    /** @return array<string, mixed> */
    private function answer(Decision $decision): array
    {
        $op = $decision->operation->op->text;

        return $decision->outcome === Outcome::Refused
            ? self::refusal($op, $decision->problems)
            : [
                'op' => $op,
                'outcome' => $decision->outcome->value,
                'record' => $decision->operation->record->text,
                'version' => $decision->after->version ?? 1,
                ...$decision->problems === [] ? [] : ['problems' => Texts::problems($decision->problems)],
                ...$decision->clashes === []
                    ? []
                    : ['clashes' => array_map(static fn (ClashedValue $c): string => $c->key, $decision->clashes)],
            ];
    }

    /**
     * @param  list<Problem>  $problems
     * @return array<string, mixed>
     */
    private static function refusal(?string $op, array $problems): array
    {
        return ['op' => $op, 'outcome' => 'refused', 'problems' => Texts::problems($problems)];
    }

    /** @throws Refused when a device id is no UUIDv7 */
    public static function for(User $user, mixed $device, mixed $sentAt = null): self
    {
        return new self(
            $user,
            RecordId::of($device, 'device'),
            PhoneClock::atSending($sentAt, now()->toDateTimeImmutable()),
        );
    }
}
