<?php

declare(strict_types=1);

namespace App\Plan;

use App\Models\Audience;
use App\Models\Board;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Member;
use App\Models\Programme;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Rights\LayerRights;
use App\Rights\PersonSight;
use App\Rights\ShownTo;
use App\Rights\Viewer;
use Illuminate\Database\Eloquent\Collection;
use PinYard\Audience\Rows;
use PinYard\Audience\Sight;

/** Which layers of a map or a board are not there for somebody whom it is shown to. */
final readonly class Reach
{
    /** @var Collection<int, Member> */
    private Collection $people;

    /** @param  Collection<int, Layer>  $layers  of the programme, by number */
    public function __construct(private Programme $programme, private Collection $layers)
    {
        // Coordinators see all.
        $this->people = $programme->members()->with(['user', 'groups', 'crew'])->get()
            ->reject(static fn (Member $m): bool => $m->coordinates());
    }

    public static function of(Programme $programme): self
    {
        return new self($programme, ShownThings::layers($programme)->keyBy('id'));
    }

    /**
     * @param  User  $asks  who is told, and of layers alone that are there for them
     * @return list<array{id: int, title: string, link: bool, people: list<string>}> with whether everyone with the link
     *     does not see it, and the names of the people who do not
     */
    public function lacking(Map|Board $thing, User $asks): array
    {
        $shown = $this->people->filter(fn (Member $m): bool => ShownTo::admitsMember(
            $m,
            $this->programme,
            $thing->audience,
            $thing->owner_id,
            $thing->shown_to ?? [],
        ));
        $lacking = [];
        foreach (ShownThings::layersOf($thing) as $number) {
            $layer = $this->layers->get($number);
            if ($layer === null || ! LayerRights::of($asks, $layer)->maySee()) {
                continue;
            }
            $link = $thing->audience === Audience::Link
                && self::isNothing(VisibleRecords::of(Viewer::anyone(), $layer)->sight, $thing);
            $without = $shown->filter(
                static fn (Member $m): bool => self::isNothing(PersonSight::of($m, $layer), $thing),
            );
            if ($link || $without->isNotEmpty()) {
                $lacking[] = [
                    'id' => $number,
                    'title' => $layer->title,
                    'link' => $link,
                    'people' => array_values($without->map(static fn (Member $m): string => $m->user->name)->all()),
                ];
            }
        }

        return $lacking;
    }

    /** Boards may tell figures of what no map shows. */
    private static function isNothing(Sight $sight, Map|Board $thing): bool
    {
        return $sight->rows === Rows::None && ($thing instanceof Map || $sight->figures === null);
    }
}
