<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Geo\Box;
use PinYard\Problem;
use PinYard\Refused;

/**
 * A saved place and zoom of a map, with a name. Its id stays when it is renamed or moved, so links to it keep leading
 * there.
 */
final readonly class Viewpoint
{
    public const MOST = 50;

    public const LONGEST_TITLE = 60;

    private function __construct(public string $id, public string $title, public Box $extent)
    {
    }

    /**
     * Reads `[{id?, title, extent: [west, south, east, north]}]`. One without an id, or with that of another, gets a
     * new one.
     *
     * @return list<self>
     *
     * @throws Refused naming each viewpoint and what is wrong with it
     */
    public static function list(mixed $in): array
    {
        if (! is_array($in) || ! array_is_list($in)) {
            throw Refused::because('must_be_list', 'viewpoints');
        }
        if (count($in) > self::MOST) {
            throw Refused::because('viewpoints_many', 'viewpoints', count($in), ['most' => self::MOST]);
        }
        $read = $problems = [];
        foreach ($in as $i => $one) {
            $title = is_array($one) && is_string($one['title'] ?? null) ? trim($one['title']) : '';
            if ($title === '' || mb_strlen($title) > self::LONGEST_TITLE) {
                $problems[] = new Problem('viewpoint_title', "viewpoints/$i/title", $title, [
                    'n' => $i + 1,
                    'most' => self::LONGEST_TITLE,
                ]);

                continue;
            }
            try {
                $sides = is_array($one['extent'] ?? null) ? array_values($one['extent']) : [];
                $extent = Box::of($sides[0] ?? null, $sides[1] ?? null, $sides[2] ?? null, $sides[3] ?? null);
            } catch (Refused) {
                $problems[] = new Problem('viewpoint_extent', "viewpoints/$i/extent", null, ['title' => $title]);

                continue;
            }
            $id =
                is_string($one['id'] ?? null) &&
                preg_match('/\A[a-z0-9]{8}\z/', $one['id']) === 1 &&
                ! isset($read[$one['id']])
                    ? $one['id']
                    : self::newId();
            $read[$id] = new self($id, $title, $extent);
        }

        return $problems === [] ? array_values($read) : throw Refused::for($problems);
    }

    private static function newId(): string
    {
        // A letter first: as a key of an array it must not turn into a number.
        return 'v'.substr(bin2hex(random_bytes(4)), 1);
    }

    /** @return array{id: string, title: string, extent: array{float, float, float, float}} */
    public function toArray(): array
    {
        return ['id' => $this->id, 'title' => $this->title, 'extent' => $this->extent->toArray()];
    }
}
