<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Models\Programme;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;

/** The named places that a phone carries: the programme's own, and those of the gazetteer within its area. */
final readonly class PlacesOfPack
{
    /** A phone searches them all with every letter. */
    private const MOST = 5_000;

    private function __construct(private Programme $programme)
    {
    }

    public static function of(Programme $programme): self
    {
        return new self($programme);
    }

    public function count(): int
    {
        // Counted no further than it matters: the area may be the world.
        return DB::query()
            ->fromSub($this->query()->select('id')->limit(self::MOST), 'p')
            ->count();
    }

    /** @return list<array{string, string, float, float}> name, what it is of, longitude, latitude */
    public function rows(): array
    {
        $found = $this->query()
            ->orderByRaw('programme_id is null')
            ->orderBy('name')
            ->limit(self::MOST)
            ->get(['name', 'of', 'lon', 'lat'])
            ->map(
                static fn (stdClass $p): array => [
                    (string) $p->name,
                    (string) $p->of,
                    (float) $p->lon,
                    (float) $p->lat,
                ],
            )
            ->all();

        return array_values($found);
    }

    private function query(): Builder
    {
        return DB::table('places')->where(
            fn (Builder $any) => $any->where('programme_id', $this->programme->id)->orWhere(
                fn (Builder $shared) => $shared->whereNull('programme_id')->where(function (Builder $in): void {
                    foreach ($this->programme->area()->parts() as $part) {
                        $in->orWhere(
                            static fn (Builder $box) => $box
                                ->whereBetween('lat', [$part->south, $part->north])
                                ->whereBetween('lon', [$part->west, $part->east]),
                        );
                    }
                }),
            ),
        );
    }
}
