<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Problem;
use PinYard\Refused;

/**
 * A question that whoever looks at a map can ask of one of its layers: only the records of a slice are shown then. Its
 * id stays when it is renamed, so links to it keep leading there.
 */
final readonly class SavedSearch
{
    public const MOST = 20;

    public const LONGEST_TITLE = 60;

    /**
     * @param  string  $part  id of the part of the map
     * @param  int  $slice  number of the slice
     */
    private function __construct(public string $id, public string $title, public string $part, public int $slice)
    {
    }

    /**
     * Reads `[{id?, title, part, slice}]`. One without an id, or with that of another, gets a new one.
     *
     * @return list<self>
     *
     * @throws Refused naming each search and what is wrong with it
     */
    public static function list(mixed $in): array
    {
        if (! is_array($in) || ! array_is_list($in)) {
            throw Refused::because('must_be_list', 'searches');
        }
        if (count($in) > self::MOST) {
            throw Refused::because('searches_many', 'searches', count($in), ['most' => self::MOST]);
        }
        $read = $problems = [];
        foreach ($in as $i => $one) {
            $one = is_array($one) ? $one : [];
            $title = is_string($one['title'] ?? null) ? trim($one['title']) : '';
            if ($title === '' || mb_strlen($title) > self::LONGEST_TITLE) {
                $problems[] = new Problem('search_title', "searches/$i/title", $title, [
                    'n' => $i + 1,
                    'most' => self::LONGEST_TITLE,
                ]);
            } elseif (! is_string($one['part'] ?? null) || ! is_int($one['slice'] ?? null)) {
                $problems[] = new Problem('search_of', "searches/$i", null, ['title' => $title]);
            } else {
                $id =
                    is_string($one['id'] ?? null) &&
                    preg_match('/\As[a-z0-9]{7}\z/', $one['id']) === 1 &&
                    ! isset($read[$one['id']])
                        ? $one['id']
                        // A letter first: as a key of an array it must not turn into a number.
                        : 's'.substr(bin2hex(random_bytes(4)), 1);
                $read[$id] = new self($id, $title, $one['part'], $one['slice']);
            }
        }

        return $problems === [] ? array_values($read) : throw Refused::for($problems);
    }

    /** @return array{id: string, title: string, part: string, slice: int} */
    public function toArray(): array
    {
        return ['id' => $this->id, 'title' => $this->title, 'part' => $this->part, 'slice' => $this->slice];
    }
}
