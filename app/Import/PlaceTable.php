<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Programme;
use Illuminate\Support\Facades\DB;
use PinYard\Import\Gazetteer;
use PinYard\Import\PlaceName;

/** The gazetteer that ships: places of the world's towns, of the demo, and those that a programme brought in itself. */
final class PlaceTable implements Gazetteer
{
    private const MOST = 60;

    public function __construct(private readonly ?Programme $programme)
    {
    }

    public function candidates(string $text): array
    {
        $name = PlaceName::of($text)->name;
        if ($name === '') {
            return [];
        }
        $found = $this->where('plain = ?', [$name]);
        $found += $this->where('sound = ?', [self::sound($name)]);
        $words = array_values(array_filter(explode(' ', $name), static fn (string $w): bool => strlen($w) >= 3));
        if ($words !== [] && count($found) < self::MOST) {
            $found += $this->where('match(plain) against (? in boolean mode)', [
                implode(
                    ' ',
                    array_map(
                        static fn (string $w): string => '+'.substr($w, 0, max(3, strlen($w) - 2)).'*',
                        $words,
                    ),
                ),
            ]);
        }

        return array_values($found);
    }

    public static function sound(string $plain): string
    {
        return substr(metaphone($plain), 0, 24);
    }

    /**
     * @param  iterable<array{name: string, of: string, lon: float, lat: float}>  $places
     * @return int how many
     */
    public static function keep(iterable $places, string $source, ?Programme $programme): int
    {
        DB::table('places')->where('source', $source)->where('programme_id', $programme?->id)->delete();
        $count = 0;
        $some = [];
        foreach ($places as $place) {
            $plain = mb_substr(PlaceName::of($place['name'])->name, 0, 160);
            if ($plain === '') {
                continue;
            }
            $some[] = [
                'programme_id' => $programme?->id,
                'source' => $source,
                'name' => mb_substr($place['name'], 0, 160),
                'plain' => $plain,
                'sound' => self::sound($plain),
                'of' => mb_substr($place['of'], 0, 160),
                'lon' => $place['lon'],
                'lat' => $place['lat'],
            ];
            $count++;
            if (count($some) === 2_000) {
                DB::table('places')->insert($some);
                $some = [];
            }
        }
        DB::table('places')->insert($some);

        return $count;
    }

    /**
     * @param  list<string>  $bindings
     * @return array<int, array{name: string, of: string, lon: float, lat: float}>
     */
    private function where(string $sql, array $bindings): array
    {
        $found = [];
        $rows = DB::table('places')
            ->whereRaw($sql, $bindings)
            ->where(
                fn ($q) => $q
                    ->whereNull('programme_id')
                    ->when($this->programme !== null, fn ($q) => $q->orWhere('programme_id', $this->programme?->id)),
            )
            ->orderByRaw('programme_id is null')
            ->limit(self::MOST)
            ->get();
        foreach ($rows as $row) {
            $found[(int) $row->id] = [
                'name' => (string) $row->name,
                'of' => (string) $row->of,
                'lon' => (float) $row->lon,
                'lat' => (float) $row->lat,
            ];
        }

        return $found;
    }
}
