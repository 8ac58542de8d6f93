<?php

declare(strict_types=1);

namespace App\Publish;

use App\Maps\MapPage;
use App\Models\Audience;
use App\Models\Board;
use App\Models\Gate;
use App\Models\Map;
use App\Models\Programme;
use App\Rights\Viewer;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Str;
use PinYard\Publish\GateDesign;
use PinYard\Refused;

/** A programme's gate: what the desk makes of it, and what whoever has its link is shown. */
final readonly class GatePage
{
    /** What is shown to fewer does not hang there: its title is told to everybody. */
    private const HUNG = [Audience::Programme, Audience::Link];

    /**
     * The gate that there is, or the one that would be made first: named like the programme, with all that is open to
     * anyone.
     */
    public static function design(Programme $programme): GateDesign
    {
        $gate = self::of($programme);
        [$maps, $boards] = [self::maps($programme), self::boards($programme)];
        $document = $gate->design ?? [
            'title' => mb_substr($programme->name, 0, GateDesign::LONGEST_TITLE),
            'about' => mb_substr($programme->purpose, 0, GateDesign::LONGEST_ABOUT),
            'colour' => GateDesign::COLOUR,
            'hung' => [
                ...$maps
                    ->filter(static fn (Map $m): bool => $m->audience === Audience::Link)
                    ->map(static fn (Map $m): array => ['kind' => 'map', 'id' => $m->id])
                    ->values(),
                ...$boards
                    ->filter(static fn (Board $b): bool => $b->audience === Audience::Link)
                    ->map(static fn (Board $b): array => ['kind' => 'board', 'id' => $b->id])
                    ->values(),
            ],
        ];
        // What went to the bin is not hung, and hangs again when it comes back.
        $document['hung'] = array_values(
            array_filter(
                $document['hung'],
                static fn (array $t): bool => ($t['kind'] === 'map' ? $maps : $boards)->has($t['id']),
            ),
        );

        return GateDesign::read($document, array_values($maps->modelKeys()), array_values($boards->modelKeys()));
    }

    /** @return array<string, mixed> for the desk */
    public static function present(Programme $programme): array
    {
        $gate = self::of($programme);

        return [
            ...self::design($programme)->toArray(),
            'open' => $gate !== null && $gate->open,
            'address' => $gate === null ? null : "/g/{$gate->link_token}",
        ];
    }

    /** @param  array<string, mixed>  $in */
    public static function save(Programme $programme, array $in): void
    {
        $gate =
            self::of($programme) ??
            new Gate(['programme_id' => $programme->id, 'open' => false, 'link_token' => Str::random(22)]);
        $all = [
            ...self::design($programme)->toArray(),
            ...array_intersect_key($in, array_flip(['title', 'about', 'colour', 'hung'])),
        ];
        $gate->design = GateDesign::read(
            $all,
            array_values(self::maps($programme)->modelKeys()),
            array_values(self::boards($programme)->modelKeys()),
        )->toArray();
        if (array_key_exists('open', $in)) {
            $gate->open = is_bool($in['open'])
                ? $in['open']
                : throw Refused::because('must_be_yes_no', 'open', is_scalar($in['open']) ? $in['open'] : null);
        }
        if (($in['new_link'] ?? null) === true) {
            $gate->link_token = Str::random(22);
        }
        $gate->save();
    }

    /**
     * What hangs there: what is open to anyone with its address, the rest with its title alone, behind a lock.
     *
     * @return array<string, mixed>
     */
    public static function front(Programme $programme): array
    {
        $design = self::design($programme);
        $maps = self::maps($programme);
        $boards = self::boards($programme);

        return [
            'title' => $design->title,
            'about' => $design->about,
            'colour' => $design->colour->hex,
            'text' => $design->colour->text(),
            'things' => array_map(static function (array $hung) use ($maps, $boards): array {
                $thing = ($hung['kind'] === 'map' ? $maps : $boards)->get($hung['id'])
                    ?? throw new \LogicException('what hangs at the gate is there');
                $open = $thing->audience === Audience::Link;

                return [
                    'kind' => $hung['kind'],
                    'title' => $thing->title,
                    'open' => $open,
                    'address' => $open ? ($hung['kind'] === 'map' ? '/m/' : '/b/').$thing->link_token : null,
                    // Of a closed one not even this is told.
                    'pegs' => $open && $thing instanceof Map ? (new MapPage($thing, Viewer::link($thing)))->pegs() : [],
                ];
            }, $design->hung),
        ];
    }

    public static function byLink(string $token): Programme
    {
        return Gate::query()
            ->where('link_token', $token)
            ->where('open', true)
            ->whereHas('programme')
            ->firstOrFail()->programme;
    }

    /** @return Collection<int, Map> by number */
    private static function maps(Programme $programme): Collection
    {
        return $programme->maps()->whereIn('audience', self::HUNG)->with(['mapped.programme', 'counted.programme'])
            ->get()->keyBy('id');
    }

    /** @return Collection<int, Board> by number */
    private static function boards(Programme $programme): Collection
    {
        return $programme->boards()->whereIn('audience', self::HUNG)->get()->keyBy('id');
    }

    private static function of(Programme $programme): ?Gate
    {
        return Gate::query()->where('programme_id', $programme->id)->first();
    }
}
