<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Board;
use App\Models\Layer;
use App\Models\Map;
use App\Models\User;
use PinYard\Audience\Sight;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** Whoever looks: a person, or anyone who holds the link of one thing. */
final readonly class Viewer
{
    /** @param  string|null  $link  names the thing whose link is held */
    private function __construct(public ?User $person, private ?string $link)
    {
    }

    public static function person(User $person): self
    {
        return new self($person, null);
    }

    /** Anyone who holds the link of something that no ids are told of. */
    public static function anyone(): self
    {
        return new self(null, 'nothing');
    }

    /** Anyone who holds the link of a thing. */
    public static function link(Map|Board $thing): self
    {
        return new self(null, ($thing instanceof Map ? 'map' : 'board').":$thing->id");
    }

    public function isLink(): bool
    {
        return $this->person === null;
    }

    /** Names by which ids this viewer knows things: an answer with ids in it is kept under this. */
    public function ids(): string
    {
        return $this->link ?? 'ours';
    }

    public function sightOf(Layer $layer): Sight
    {
        if ($this->person === null) {
            return AudienceRules::sight($layer, AudienceName::link());
        }

        return PersonSight::of(
            $layer->programme->trashed() ? null : $layer->programme->memberFor($this->person),
            $layer,
        );
    }

    /**
     * The id by which this viewer knows a record or a file. The ids that we make tell the moment in which a record was
     * begun, so a link gets others: the same for the same thing each time, of no use behind any other link.
     *
     * @param  string  $id  16 bytes
     */
    public function idOf(string $id): string
    {
        return $this->link === null ? RecordId::fromBytes($id)->text : OpaqueId::of($id, $this->link);
    }

    /**
     * The id by which a list names a record: behind a link another than the map beside it has, or a name that is told
     * in the one and a place that is told in the other could be put together.
     *
     * @param  string  $id  16 bytes
     */
    public function idIn(string $list, string $id): string
    {
        return $this->link === null ? RecordId::fromBytes($id)->text : OpaqueId::of($id, "$this->link/$list");
    }

    /**
     * The way back from an id of a list.
     *
     * @return string 16 bytes
     *
     * @throws Refused
     */
    public function idFromList(string $list, string $text): string
    {
        return $this->link === null
            ? RecordId::of($text, 'record')->bytes()
            : OpaqueId::read($text, "$this->link/$list");
    }

    /**
     * The way back.
     *
     * @return string 16 bytes
     *
     * @throws Refused
     */
    public function idFrom(string $text): string
    {
        return $this->link === null ? RecordId::of($text, 'record')->bytes() : OpaqueId::read($text, $this->link);
    }
}
