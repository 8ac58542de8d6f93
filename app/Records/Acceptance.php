<?php

declare(strict_types=1);

namespace App\Records;

use App\Audit\Audit;
use App\Layers\FilterSql;
use App\Models\Layer;
use App\Models\User;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Database\Query\Builder;
use PinYard\Filter\Filter;
use PinYard\Filter\Subject;
use PinYard\Record\RecordId;
use PinYard\Refused;

/**
 * Accepting records as they are, or taking that back. It is said of what somebody has looked at: a record that became
 * another meanwhile is left out, and it is told how many those are.
 */
final readonly class Acceptance
{
    /** Named one by one. */
    public const MOST = 1_000;

    public function __construct(private User $user, private Layer $layer, private bool $accepted)
    {
    }

    /**
     * @param  mixed  $records  list of `{id, version}`
     * @return array{done: int, changed: int, at: string|null, to_check: int} how many; how many became others since;
     *     when they were accepted; how many are left
     *
     * @throws Refused
     */
    public function named(mixed $records): array
    {
        if (! is_array($records) || ! array_is_list($records) || $records === [] || count($records) > self::MOST) {
            throw Refused::because('accept_records', 'records', is_array($records) ? count($records) : null, [
                'most' => self::MOST,
            ]);
        }
        $versions = [];
        foreach ($records as $i => $record) {
            $version = is_array($record) ? $record['version'] ?? null : null;
            if (! is_array($record) || ! is_int($version)) {
                throw Refused::because('op_number', "records/$i/version");
            }
            $versions[RecordId::of($record['id'] ?? null)->bytes()] = $version;
        }

        return $this->done(function (Builder $open) use ($versions): array {
            $found = (clone $open)->whereIn('id', array_keys($versions))->pluck('version', 'id')->all();
            $same = array_filter(
                $versions,
                static fn (int $version, string|int $id): bool => ($found[$id] ?? null) === $version,
                ARRAY_FILTER_USE_BOTH,
            );

            return [
                $same === [] ? null : $open->whereIn('id', array_map(strval(...), array_keys($same))),
                count(array_intersect_key($versions, $found)) - count($same),
            ];
        });
    }

    /**
     * All that a list shows.
     *
     * @param  list<Filter>  $filters  that it is narrowed by
     * @param  int  $known  change number of the layer when it was looked at
     * @param  (\Closure(Builder, Layer): mixed)|null  $narrow  what else it is narrowed by
     * @return array{done: int, changed: int, at: string|null, to_check: int}
     *
     * @throws Refused
     */
    public function all(array $filters, int $known, ?\Closure $narrow = null): array
    {
        return $this->done(function (Builder $open, Layer $layer) use ($filters, $known, $narrow): array {
            if ($narrow !== null) {
                $narrow($open, $layer);
            }
            foreach ($filters as $filter) {
                (new FilterSql($layer, $this->user->id))->apply($open, $filter);
            }

            return [
                (clone $open)->where('change_number', '<=', $known),
                (clone $open)->where('change_number', '>', $known)->count(),
            ];
        });
    }

    /**
     * Those that this person accepted at one moment, and that are still so.
     *
     * @param  string  $at  as {@see named()} and {@see all()} told it
     * @return array{done: int, changed: int, at: string|null, to_check: int}
     *
     * @throws Refused
     */
    public function undone(string $at): array
    {
        $moment = \DateTimeImmutable::createFromFormat('!Y-m-d\TH:i:s.v\Z', $at, new \DateTimeZone('UTC'));
        if ($moment === false) {
            throw Refused::because('accept_at', 'at', $at);
        }

        return $this->done(fn (Builder $open): array => [
            $open->where('accepted_at', $moment->format('Y-m-d H:i:s.v'))->where('accepted_by', $this->user->id),
            0,
        ]);
    }

    /**
     * @param  \Closure(Builder, Layer): array{Builder|null, int}  $which  of those that are not so yet
     * @return array{done: int, changed: int, at: string|null, to_check: int}
     */
    private function done(\Closure $which): array
    {
        $at = $this->accepted ? now()->format('Y-m-d H:i:s.v') : null;
        [$done, $changed] = RecordWriter::locked(
            $this->layer->id,
            Cause::Checked,
            $this->user->id,
            function (RecordWriter $writer) use ($which, $at): array {
                // Who coordinates sees them all; that may have become another while this waited for the lock.
                if ($writer->layer->programme->isCoordinatedBy($this->user->id) === false) {
                    throw new AuthorizationException;
                }
                $open = $writer->records()->where('deleted', false)->whereNull('accepted_at', not: ! $this->accepted);
                [$records, $changed] = $which($open, $writer->layer);

                return [$records === null ? 0 : $writer->accept($records, $at), $changed];
            },
        );
        if ($done > 0) {
            Audit::note($this->layer->programme_id, $this->accepted ? 'accepted' : 'unaccepted', [
                'layer' => $this->layer->title,
                'n' => $done,
            ], $this->user);
        }

        return [
            'done' => $done,
            'changed' => $changed,
            'at' => $at === null ? null : strtr($at, ' ', 'T').'Z',
            'to_check' => self::left($this->user, $this->layer),
        ];
    }

    /** How many records of a layer nobody has accepted as they are. */
    public static function left(User $user, Layer $layer): int
    {
        return VisibleRecords::for($user, $layer)->filtered(self::toCheck($layer))->count();
    }

    private static function toCheck(Layer $layer): Filter
    {
        return $layer->filter(['all' => [['field' => Subject::ACCEPTED, 'test' => 'is', 'value' => false]]]);
    }
}
