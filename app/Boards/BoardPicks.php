<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Layer;
use App\Rights\Viewer;
use Illuminate\Http\Request;
use PinYard\Board\Pick;
use PinYard\Board\Tile;
use PinYard\Board\Tiles\MapTile;
use PinYard\Filter\Filter;
use PinYard\Filter\Subject;
use PinYard\Record\RecordId;
use PinYard\Refused;

/**
 * What was picked in the tiles of a board: `pick={"<tile>": "<part>"}` and, for lists, `find={"<tile>": "<text>"}`.
 * What is not there any more picks nothing, and the answer says so.
 */
final readonly class BoardPicks
{
    private const MOST = 12;

    private const LONGEST = 200;

    /**
     * @param  array<string, string>  $parts  by tile
     * @param  array<string, string>  $found  what is looked for in lists, by tile
     */
    private function __construct(private array $parts, private array $found)
    {
    }

    public static function asked(Request $request): self
    {
        return new self(self::texts($request->query('pick')), self::texts($request->query('find')));
    }

    public static function none(): self
    {
        return new self([], []);
    }

    /** @return array<string, string> */
    private static function texts(mixed $given): array
    {
        $texts = [];
        $read = is_string($given) ? json_decode($given, true, 3) : null;
        foreach (is_array($read) ? array_slice($read, 0, self::MOST, true) : [] as $tile => $text) {
            if (is_string($text) && mb_strlen($text) <= self::LONGEST) {
                $texts[(string) $tile] = $text;
            }
        }
        ksort($texts);

        return $texts;
    }

    public function isEmpty(): bool
    {
        return $this->parts === [] && $this->found === [];
    }

    /** Names them: answers are kept under this. */
    public function key(): string
    {
        return $this->isEmpty() ? '' : (string) json_encode([$this->parts, $this->found]);
    }

    public function textIn(string $tile): ?string
    {
        $text = trim($this->found[$tile] ?? '');

        return $text === '' ? null : $text;
    }

    /**
     * @param  iterable<Tile>  $tiles
     * @param  \Closure(MapTile, string): (int|null)  $areas  number of the layer of a part of a map whose areas this
     *     viewer sees
     * @return array<string, Pick> by tile, those that are there
     */
    public function of(iterable $tiles, Viewer $viewer, \Closure $areas): array
    {
        $picks = [];
        foreach ($tiles as $tile) {
            $part = $this->parts[$tile->frame->id] ?? null;
            $pick = match (true) {
                $part === null => null,
                $tile instanceof MapTile => self::area($tile, $part, $areas),
                default => $tile->pick($part),
            };
            if ($pick !== null) {
                try {
                    $picks[$tile->frame->id] = self::known($pick, $viewer);
                } catch (Refused) {
                    // A link's own ids of another thing, or nothing at all.
                }
            }
        }

        return $picks;
    }

    /**
     * An area that was picked on a map: `<part>:<area>`, and behind another colon what it is called.
     *
     * @param  \Closure(MapTile, string): (int|null)  $areas
     */
    private static function area(MapTile $tile, string $picked, \Closure $areas): ?Pick
    {
        [$part, $record] = explode(':', $picked, 3) + [1 => ''];
        $layer = $record === '' ? null : $areas($tile, $part);

        return $layer === null ? null : $tile->pickArea($layer, $record);
    }

    /** With areas by their own ids, which a link does not know. */
    private static function known(Pick $pick, Viewer $viewer): Pick
    {
        $conditions = [];
        foreach ($pick->conditions as $c) {
            if (($c['field'] ?? null) === Subject::PLACE && is_array($c['value'] ?? null)) {
                $record = $viewer->idFrom((string) $c['value']['record']);
                $c['value']['record'] = RecordId::fromBytes($record)->text;
            }
            $conditions[] = $c;
        }

        return Pick::of($pick->layer, ...$conditions);
    }

    /** The rule that a pick means for a layer; null where it says nothing of its records. */
    public static function on(Pick $pick, Layer $layer): ?Filter
    {
        try {
            return $pick->on($layer->id, $layer->design(), $layer->visitsLayer?->design());
        } catch (Refused) {
            return null;
        }
    }
}
