<?php

declare(strict_types=1);

namespace App\Publish;

use App\Models\Crew;
use App\Models\Group;
use App\Models\Layer;
use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\Rights\AudienceName;
use Illuminate\Support\Collection;

/** Those for whom a programme says who sees what, as its coordinator is told of them. */
final class Audiences
{
    /**
     * Everyone with a link, guests, makers where there are any, crews; groups; and of single crews those for whom
     * something of their own was said.
     *
     * @param  iterable<Layer>  $layers  of the programme
     * @return list<array{name: string, kind: 'link'|'guests'|'makers'|'crews'|'crew'|'group', title: string|null,
     *     people: list<string>|null}> people by name; null where anyone may be
     */
    public static function of(Programme $programme, iterable $layers): array
    {
        $members = $programme->members()->with(['user', 'groups'])->get();
        $said = [];
        foreach ($layers as $layer) {
            $said += $layer->seen_by ?? [];
        }
        $names = static fn (\Closure $is): array => array_values(
            $members->filter($is)->map(static fn (Member $m): string => $m->user->name)->sort()->all(),
        );
        $makers = $names(static fn (Member $m): bool => ! $m->coordinates() && $m->mayMake());
        $all = [
            self::one(AudienceName::link(), 'link', null, null),
            self::one(AudienceName::guests(), 'guests', null, $names(
                static fn (Member $m): bool => $m->role === Role::Guest,
            )),
            ...$makers === [] && ! isset($said[AudienceName::MAKERS])
                ? []
                : [self::one(AudienceName::makers(), 'makers', null, $makers)],
            self::one(AudienceName::crews(), 'crews', null, $names(
                static fn (Member $m): bool => $m->role === Role::Crew,
            )),
        ];
        foreach ($programme->groups()->orderBy('name')->get() as $group) {
            $all[] = self::one(AudienceName::group($group->id), 'group', $group->name, $names(
                static fn (Member $m): bool => $m->groups->contains('id', $group->id),
            ));
        }
        foreach ($programme->crews()->orderBy('name')->get() as $crew) {
            if (isset($said[AudienceName::crew($crew->id)->name])) {
                $all[] = self::crew($crew, $members);
            }
        }

        return $all;
    }

    /**
     * Those that a map or a board can be shown to, without their people: whoever makes them need not know who is who.
     *
     * @return list<array{name: string, kind: 'link'|'guests'|'makers'|'crews'|'crew'|'group', title: string|null,
     *     people: null}>
     */
    public static function toShow(Programme $programme): array
    {
        $all = [
            ['name' => AudienceName::CREWS, 'kind' => 'crews', 'title' => null, 'people' => null],
            ['name' => AudienceName::GUESTS, 'kind' => 'guests', 'title' => null, 'people' => null],
            ['name' => AudienceName::MAKERS, 'kind' => 'makers', 'title' => null, 'people' => null],
        ];
        foreach ($programme->groups()->orderBy('name')->get() as $group) {
            $all[] = [
                'name' => AudienceName::group($group->id)->name, 'kind' => 'group', 'title' => $group->name,
                'people' => null,
            ];
        }
        foreach ($programme->crews()->orderBy('name')->get() as $crew) {
            $all[] = [
                'name' => AudienceName::crew($crew->id)->name, 'kind' => 'crew', 'title' => $crew->name,
                'people' => null,
            ];
        }

        return $all;
    }

    /**
     * @param  Collection<int, Member>  $members
     * @return array{name: string, kind: 'crew', title: string, people: list<string>}
     */
    private static function crew(Crew $crew, Collection $members): array
    {
        return [
            'name' => AudienceName::crew($crew->id)->name,
            'kind' => 'crew',
            'title' => $crew->name,
            'people' => array_values(
                $members->where('crew_id', $crew->id)->map(static fn (Member $m): string => $m->user->name)
                    ->sort()->all(),
            ),
        ];
    }

    /**
     * @param  'link'|'guests'|'makers'|'crews'|'group'  $kind
     * @param  list<string>|null  $people
     * @return array{name: string, kind: 'link'|'guests'|'makers'|'crews'|'group', title: string|null,
     *     people: list<string>|null}
     */
    private static function one(AudienceName $of, string $kind, ?string $title, ?array $people): array
    {
        return ['name' => $of->name, 'kind' => $kind, 'title' => $title, 'people' => $people];
    }
}
