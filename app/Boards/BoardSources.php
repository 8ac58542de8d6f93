<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Audience;
use App\Models\Board;
use App\Models\Crew;
use App\Models\Layer;
use App\Models\Member;
use App\Models\Onlooker;
use App\Models\Programme;
use App\Models\Slice;
use App\Models\User;
use App\Records\Bits\BitLayers;
use App\Records\Stood\AsItStood;
use App\Records\Stood\StoodDay;
use App\Records\VisibleRecords;
use App\Rights\ShownTo;
use App\Rights\Viewer;
use App\Slices\RuleNeeds;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use LogicException;
use PinYard\Board\BoardContext;
use PinYard\Board\Tile;
use PinYard\Board\Tiles\OutingsTile;
use PinYard\Design\LayerDesign;

/** A board with all that its answers may be made of, read with two queries: screens ask for it every few seconds. */
final readonly class BoardSources
{
    private ?AsItStood $past;

    /** Of the layers as they are while this answer is made. */
    public BitLayers $bits;

    /**
     * @param  Collection<int, Layer>  $layers  of the programme, by number
     * @param  Collection<int, Slice>  $slices  by number
     */
    private function __construct(
        public Board $board,
        public Viewer $viewer,
        public Collection $layers,
        public Collection $slices,
        public ?StoodDay $stood = null,
    ) {
        $this->bits = new BitLayers;
        $this->past = $stood === null ? null : new AsItStood($stood);
        if ($stood !== null) {
            $board->programme->standOn($stood->day);
            $layers->each($this->stand(...));
        }
    }

    /** The same board on a past day. */
    public function on(?StoodDay $day): self
    {
        return $day === null
            ? $this
            : new self($this->board, $this->viewer, $this->layers, $this->slices, $day);
    }

    /** What is read of a layer is read as it stood, where a past day is asked for. */
    public function stand(Layer $layer): void
    {
        $this->past?->stand($layer);
    }

    /** @return self|null null where the person is not in the board's programme, or there is no such board */
    public static function forPerson(int $board, User $person): ?self
    {
        if ($person instanceof Onlooker) {
            $row = self::board()->where('b.id', $board)->first();
            $sources = $row === null ? null : self::read((array) $row, $person);

            return $sources !== null && ShownTo::admits($sources->board, $person) ? $sources : null;
        }
        $row = self::board()
            ->where('b.id', $board)
            ->join(
                'members as m',
                static fn ($join) => $join->on('m.programme_id', '=', 'p.id')->where('m.user_id', $person->id),
            )
            ->leftJoin('crews as c', 'c.id', '=', 'm.crew_id')
            ->addSelect(
                'm.id as member__id',
                'm.programme_id as member__programme_id',
                'm.user_id as member__user_id',
                'm.role as member__role',
                'm.makes as member__makes',
                'm.crew_id as member__crew_id',
                'c.name as crew__name',
            )
            ->first();

        $sources = $row === null ? null : self::read((array) $row, $person);

        return $sources !== null && ShownTo::admits($sources->board, $person) ? $sources : null;
    }

    public static function forLink(string $token): ?self
    {
        $row = self::board()->where('b.link_token', $token)->where('b.audience', Audience::Link->value)->first();

        return $row === null ? null : self::read((array) $row, null);
    }

    private static function board(): Builder
    {
        return DB::table('boards as b')
            ->join('programmes as p', 'p.id', '=', 'b.programme_id')
            ->whereNull('b.deleted_at')
            ->whereNull('p.deleted_at')
            ->select(
                'b.id as board__id',
                'b.title as board__title',
                'b.tiles as board__tiles',
                'b.pages as board__pages',
                'b.visitors_pick as board__visitors_pick',
                'b.programme_id as board__programme_id',
                'b.audience as board__audience',
                'b.shown_to as board__shown_to',
                'b.owner_id as board__owner_id',
                'b.updated_at as board__updated_at',
                'p.id as programme__id',
                'p.name as programme__name',
                'p.time_zone as programme__time_zone',
                'p.west as programme__west',
                'p.south as programme__south',
                'p.east as programme__east',
                'p.north as programme__north',
                'p.designs as programme__designs',
                'p.work_seen as programme__work_seen',
            );
    }

    /** @param  array<string, mixed>  $row */
    private static function read(array $row, ?User $person): self
    {
        $of = static function (string $what) use ($row): array {
            $attributes = [];
            foreach ($row as $key => $value) {
                if (str_starts_with($key, "{$what}__")) {
                    $attributes[substr($key, strlen($what) + 2)] = $value;
                }
            }

            return $attributes;
        };
        $programme = (new Programme)->newFromBuilder($of('programme'));
        $board = (new Board)->newFromBuilder($of('board'))->setRelation('programme', $programme);
        if ($person !== null && ! $person instanceof Onlooker) {
            $member = (new Member)->newFromBuilder($of('member'));
            $programme->knowMember(
                $person,
                $member->setRelation(
                    'crew',
                    $member->crew_id === null
                        ? null
                        : (new Crew)->newFromBuilder(['id' => $member->crew_id, ...$of('crew')]),
                ),
            );
        }
        $layers = $slices = [];
        $found = DB::table('layers as l')
            ->leftJoin('slices as s', 's.layer_id', '=', 'l.id')
            ->where('l.programme_id', $programme->id)
            ->whereNull('l.deleted_at')
            ->get(['l.*', 's.id as slice__id', 's.name as slice__name', 's.filter as slice__filter']);
        foreach ($found as $one) {
            $columns = (array) $one;
            if ($one->slice__id !== null) {
                $slices[$one->slice__id] = (new Slice)->newFromBuilder([
                    'id' => $one->slice__id,
                    'layer_id' => $one->id,
                    'name' => $one->slice__name,
                    'filter' => $one->slice__filter,
                ]);
            }
            unset($columns['slice__id'], $columns['slice__name'], $columns['slice__filter']);
            $layers[$one->id] ??= (new Layer)->newFromBuilder($columns)->setRelation('programme', $programme);
        }

        $visitsTo = [];
        foreach ($layers as $layer) {
            if ($layer->visits_of !== null) {
                $visitsTo[$layer->visits_of] = $layer;
            }
        }
        foreach ($layers as $layer) {
            $layer->setRelation('visitsLayer', $visitsTo[$layer->id] ?? null);
        }

        return new self(
            $board,
            $person === null ? Viewer::link($board) : Viewer::person($person),
            new Collection($layers),
            new Collection($slices),
        );
    }

    /**
     * Names all that could change an answer, for one way of seeing: the board, the day, and of each layer that its
     * tiles read the records, the design and the slices. It stays here ({@see \App\Answers\KeptAnswer}).
     *
     * @param  list<Tile>  $tiles  those that can be read
     */
    public function state(array $tiles): string
    {
        $parts = [
            $this->board->id,
            (string) $this->board->getRawOriginal('updated_at'),
            $this->board->title,
            md5((string) $this->board->getRawOriginal('tiles').$this->board->getRawOriginal('pages')),
            (int) $this->board->visitors_pick,
            BoardState::beside(
                (string) $this->board->getRawOriginal('tiles'),
                $this->board->programme_id,
                $this->viewer,
            ),
            $this->board->programme->name,
            json_encode($this->board->programme->area()->toArray()),
            (string) $this->board->programme->getRawOriginal('work_seen'),
            $this->board->programme->today(),
            $this->stood?->key() ?? '',
        ];
        $settled = $this->stood?->isSettled() === true;
        foreach ($this->readLayers($tiles) as $id) {
            $layer = $this->layers[$id] ?? null;
            $parts[] =
                $layer === null
                    ? "$id gone"
                    : implode(',', [
                        VisibleRecords::of($this->viewer, $layer)->key(),
                        // What comes in today changes no day that is over.
                        $settled ? '' : $layer->change_number.','.$layer->getRawOriginal('updated_at'),
                        $layer->design_version,
                        $this->board->programme->designs,
                    ]);
        }
        foreach ($this->slices as $slice) {
            $parts[] = "$slice->id $slice->name ".md5((string) $slice->getRawOriginal('filter'));
            array_push(
                $parts,
                ...RuleNeeds::of(
                    (string) $slice->getRawOriginal('filter'),
                    $this->board->programme,
                    $this->viewer,
                    fn (): string => $this->layers
                        ->map(static fn (Layer $l): int => $l->change_number)
                        ->implode(','),
                ),
            );
        }

        return implode('|', $parts);
    }

    /**
     * @param  list<Tile>  $tiles
     * @return list<int> numbers of the layers that the tiles read, also by the visits to them
     */
    private function readLayers(array $tiles): array
    {
        $read = array_column($this->board->tiles, 'layer');
        foreach ($tiles as $tile) {
            // Outings count the records of whatever layers they are for.
            array_push($read, ...$tile instanceof OutingsTile ? $this->layers->keys()->all() : $tile->layers());
        }
        foreach ($read as $id) {
            $visits = ($this->layers[$id] ?? null)?->visitsLayer;
            if ($visits !== null) {
                $read[] = $visits->id;
            }
        }

        return array_values(array_unique($read));
    }

    public function layer(int $number): Layer
    {
        return $this->layers->get($number) ?? throw new LogicException('a tile without its layer');
    }

    /** What the board's tiles can read. */
    public function context(): BoardContext
    {
        return new BoardContext(
            $this->layers->map(static fn (Layer $l): LayerDesign => $l->design())->all(),
            $this->slices->map(static fn (Slice $s): int => $s->layer_id)->all(),
            array_values($this->layers->filter(static fn (Layer $l): bool => $l->visitsLayer !== null)->keys()->all()),
            // Whether a map is still there is found out when it is drawn.
            array_values(array_filter(array_column($this->board->tiles, 'map'), is_int(...))),
        );
    }
}
