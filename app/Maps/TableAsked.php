<?php

declare(strict_types=1);

namespace App\Maps;

use App\Rights\Viewer;
use Illuminate\Http\Request;
use PinYard\Carto\MapTable;
use PinYard\Geo\Box;
use PinYard\Refused;

/** What is asked of the table beside a map. */
final readonly class TableAsked
{
    private const PAGE = 100;

    private const MOST = 1_000;

    /**
     * @param  Box|null  $box  what the map shows; null: all
     * @param  string|null  $sort  a column; null: as its makers chose
     * @param  string|null  $class  only of this class of the look; '' of none; null: of all
     * @param  string|null  $pick  a record (16 bytes) that is told wherever it stands
     */
    private function __construct(
        public ?Box $box,
        public ?string $sort,
        public bool $down,
        public ?string $class,
        public ?string $pick,
        public int $limit,
    ) {
    }

    /** @throws Refused */
    public static function of(Request $request, MapTable $table, Viewer $viewer): self
    {
        $text = static function (string $name) use ($request): ?string {
            $given = $request->query($name);

            return is_string($given) ? $given : null;
        };
        $sort = $text('sort');
        if ($sort !== null && ! in_array($sort, $table->columns, true)) {
            throw Refused::because('table_sort', 'sort', $sort);
        }
        $box = $text('bbox');

        return new self(
            $box === null ? null : Box::fromText($box),
            $sort,
            $text('down') === '1',
            // A class that is named by nothing is that of what has none; the framework takes it for null.
            $request->has('class') ? (string) $text('class') : null,
            $text('pick') === null ? null : $viewer->idFrom((string) $text('pick')),
            max(1, min(self::MOST, $request->integer('limit', self::PAGE))),
        );
    }
}
