<?php

declare(strict_types=1);

namespace App\Records\Stood;

use App\Models\Programme;
use DateTimeImmutable;
use DateTimeZone;
use Illuminate\Http\Request;
use PinYard\Formula\Moment;
use PinYard\Refused;

/** A past day of a programme, seen as it ended: by what had arrived by then, or by what had been collected. */
final readonly class StoodDay
{
    /** @param  string  $until  the moment when it ended, as the database has moments (UTC) */
    private function __construct(public string $day, public bool $byCollecting, public string $until)
    {
    }

    /**
     * Asked by `on=<day>` and `by=collected`.
     *
     * @return self|null null where nothing is asked, or today
     *
     * @throws Refused of no day, or one that is still to come
     */
    public static function asked(Request $request, Programme $programme): ?self
    {
        $asked = $request->query('on');

        return $asked === null || $asked === ''
            ? null
            : self::of($asked, $request->query('by') === 'collected', $programme);
    }

    /** @throws Refused */
    public static function of(mixed $asked, bool $byCollecting, Programme $programme): ?self
    {
        $day = Moment::date($asked) ?? throw Refused::because('stood_day', 'on', is_scalar($asked) ? $asked : null);
        $today = $programme->today();
        if ($day > $today || $day < '1900-01-01') {
            throw Refused::because('stood_ahead', 'on', $day, ['today' => $today]);
        }
        if ($day === $today) {
            return null;
        }
        $zone = new DateTimeZone($programme->time_zone);
        $until = (new DateTimeImmutable($day, $zone))->modify('+1 day')->setTimezone(new DateTimeZone('UTC'));

        return new self($day, $byCollecting, $until->format('Y-m-d H:i:s.v'));
    }

    /**
     * Whether nothing that comes in can change it any more: by what had arrived, once all that was being written at its
     * end is written.
     */
    public function isSettled(): bool
    {
        return ! $this->byCollecting && $this->until < now()->subMinutes(10)->format('Y-m-d H:i:s.v');
    }

    /** Names it: what is kept of it is given to nobody who asks for another. */
    public function key(): string
    {
        return $this->day.($this->byCollecting ? ' collected' : ' arrived');
    }
}
