<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Models\Board;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Role;
use App\Models\Shelf;
use App\Models\User;
use App\Rights\ShownTo;
use Illuminate\Auth\Access\AuthorizationException;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use PinYard\Plan\TidyUp;
use PinYard\Refused;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** Carries one tidy-up out on all of its things, or on none: rights are looked at for each of them first. */
final readonly class TidyUpRun
{
    public function __construct(private User $user)
    {
    }

    /**
     * @return list<array<string, mixed>> the things as they are now; copies in place of what was copied
     *
     * @throws Refused
     */
    public function run(TidyUp $tidy): array
    {
        $work = function () use ($tidy): array {
            $things = array_map(
                fn (array $t): array => [$t['kind'], $this->find($tidy, $t['kind'], $t['id'])],
                $tidy->things,
            );
            $after = [];
            foreach ($things as [$kind, $thing]) {
                $after[] = [$kind, $this->one($tidy, $kind, $thing)];
            }
            $stars = Catalogue::stars($this->user);

            return array_map(static fn (array $t): array => Catalogue::present($t[0], $t[1], $stars), $after);
        };

        // Copies make tables, which ends a transaction; all else is done whole or not at all.
        return $tidy->action === 'copy' ? $work() : DB::transaction($work);
    }

    /** Starring is everyone's own; all else is the coordinators'. */
    private function find(TidyUp $tidy, string $kind, int $id): Programme|Layer|Map|Board
    {
        $class = Catalogue::KINDS[$kind];
        $thing =
            ($tidy->action === 'restore' ? $class::binned() : $class::query())->whereKey($id)->first() ??
            throw new NotFoundHttpException;
        $role = ($thing instanceof Programme ? $thing : $thing->programme)->memberFor($this->user)?->role;
        $isShown = ! ($thing instanceof Map || $thing instanceof Board) || ShownTo::admits($thing, $this->user);
        if ($role === null || ! $isShown) {
            throw new NotFoundHttpException;
        }
        if ($role !== Role::Coordinator && ! in_array($tidy->action, ['star', 'unstar'], true)) {
            throw new AuthorizationException;
        }

        return $thing;
    }

    private function one(TidyUp $tidy, string $kind, Programme|Layer|Map|Board $thing): Programme|Layer|Map|Board
    {
        $star = ['user_id' => $this->user->id, 'kind' => $kind, 'thing_id' => $thing->id];
        match ($tidy->action) {
            'shelf' => $this->shelve($thing, $tidy->with),
            'tag', 'untag' => $thing->update(['tags' => $tidy->words($thing->tags ?? [])]),
            'purpose', 'unpurpose' => $thing->update(['purposes' => $tidy->words($thing->purposes ?? [])]),
            'star' => DB::table('favourites')->insertOrIgnore($star),
            'unstar' => DB::table('favourites')->where($star)->delete(),
            'hand_over' => $this->handOver($thing, (int) $tidy->with),
            'bin' => $this->throwAway($thing),
            'restore' => $this->bringBack($thing),
            'copy' => null,
        };

        return $tidy->action === 'copy' ? (new CopyThing($this->user))->of($thing) : $thing->refresh();
    }

    private function shelve(Programme|Layer|Map|Board $thing, string|int|null $shelf): void
    {
        if (
            $thing instanceof Programme ||
            ($shelf !== null &&
                ! Shelf::query()->where('programme_id', $thing->programme_id)->whereKey($shelf)->exists())
        ) {
            throw Refused::because('shelf_unknown', 'with', $shelf);
        }
        $thing->update(['shelf_id' => $shelf]);
    }

    /** Only to another coordinator: an owner who may not change a thing would be none. */
    private function handOver(Programme|Layer|Map|Board $thing, int $to): void
    {
        $programme = $thing instanceof Programme ? $thing : $thing->programme;
        if (! $programme->members()->where('user_id', $to)->where('role', Role::Coordinator)->exists()) {
            throw Refused::because('owner_unknown', 'with', $to);
        }
        $thing->update(['owner_id' => $to]);
    }

    /** A layer takes along what cannot be without it: its maps, and the layer of visits to it. */
    private function throwAway(Programme|Layer|Map|Board $thing): void
    {
        if ($thing instanceof Layer) {
            $this->mapsOfNothingElse($thing)->each(fn (Map $map) => $map->throwAway($this->user));
            if ($thing->visitsLayer !== null) {
                $this->throwAway($thing->visitsLayer);
            }
        }
        $thing->throwAway($this->user);
    }

    /** @return Collection<int, Map> maps that show this layer and no other that is there; others say that it is gone */
    private function mapsOfNothingElse(Layer $layer): Collection
    {
        return Map::query()
            ->showing($layer)
            ->where('programme_id', $layer->programme_id)
            ->whereDoesntHave('mapped', static fn ($q) => $q->whereKeyNot($layer->id))
            ->get();
    }

    private function bringBack(Programme|Layer|Map|Board $thing): void
    {
        if ($thing instanceof Map && $thing->layers !== [] && $thing->mapped()->doesntExist()) {
            throw Refused::because('layer_in_bin', 'things', $thing->title, ['map' => $thing->title]);
        }
        if (
            $thing instanceof Layer &&
            $thing->visits_of !== null &&
            Layer::binned()->whereKey($thing->visits_of)->exists()
        ) {
            throw Refused::because('visited_in_bin', 'things', $thing->title, ['layer' => $thing->title]);
        }
        $at = $thing->deleted_at;
        $thing->restore();
        if ($thing instanceof Layer && $at !== null) {
            // What went with it comes back with it; what was thrown away before stays there.
            Map::binned()
                ->showing($thing)
                ->where('deleted_at', '>=', $at->copy()->subSeconds(5))
                ->get()
                ->each($this->bringBack(...));
            Layer::binned()
                ->where('visits_of', $thing->id)
                ->where('deleted_at', '>=', $at->copy()->subSeconds(5))
                ->get()
                ->each($this->bringBack(...));
        }
    }
}
