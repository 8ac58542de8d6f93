<?php

declare(strict_types=1);

namespace App\Maps;

use Illuminate\Http\Request;
use PinYard\Refused;

/** What is asked of the wall of photos of a map. */
final class WallAsked
{
    private const WAYS = ['from', 'after', 'before'];

    /**
     * @return array<string, mixed> the answer
     *
     * @throws Refused
     */
    public static function of(Request $request, MapPage $page): array
    {
        $part = $request->query('part');
        $wall = $page->wall(is_string($part) ? $part : null);
        foreach (self::WAYS as $way) {
            $photo = $request->query($way);
            if (is_string($photo)) {
                return $wall->page($way, $photo);
            }
        }

        return $wall->page();
    }
}
