<?php

declare(strict_types=1);

namespace PinYard\Plan;

use PinYard\Formula\Moment;
use PinYard\Geo\Box;
use PinYard\Problem;
use PinYard\Refused;

/**
 * One planned piece of field work: who goes, where, on which days, for which layers, with what target and what to pack.
 */
final readonly class Outing
{
    private const MOST_DAYS = 400;

    private const MOST_THINGS = 60;

    /**
     * @param  string  $from  first day, as the programme's calendar has it; `$to` the last
     * @param  Box|null  $area  null for the whole programme
     * @param  list<int>  $layers
     * @param  'none'|'records'|'visits'  $target  so many records, or each existing record visited once
     * @param  int|null  $count  records wanted
     * @param  list<string>  $checklist  what to pack
     */
    private function __construct(
        public string $title,
        public string $note,
        public ?int $crew,
        public string $from,
        public string $to,
        public ?Box $area,
        public array $layers,
        public string $target,
        public ?int $count,
        public array $checklist,
    ) {
    }

    /**
     * @param  list<int>  $crews  of the programme
     * @param  array<int, bool>  $layers  of the programme: whether visits to their records are kept
     *
     * @throws Refused naming every place that is off
     */
    public static function read(mixed $in, array $crews, array $layers): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object');
        }
        $problems = [];
        $title = is_string($in['title'] ?? null) ? trim($in['title']) : '';
        $note = is_string($in['note'] ?? null) ? trim($in['note']) : '';
        if ($title === '') {
            $problems[] = new Problem('empty', 'title');
        }
        foreach (['title' => [$title, 120], 'note' => [$note, 2000]] as $part => [$text, $most]) {
            if (mb_strlen($text) > $most) {
                $problems[] = new Problem('too_long', $part, mb_substr($text, 0, 40).'…', [
                    'length' => mb_strlen($text),
                    'most' => $most,
                ]);
            }
        }
        $crew = $in['crew'] ?? null;
        if ($crew !== null && ! in_array($crew, $crews, true)) {
            $problems[] = new Problem('outing_crew', 'crew', is_scalar($crew) ? $crew : null);
            $crew = null;
        }
        [$from, $to] = [Moment::date($in['from'] ?? null), Moment::date($in['to'] ?? null)];
        if ($from === null || $to === null) {
            $problems[] = new Problem(
                'outing_days',
                $from === null ? 'from' : 'to',
                is_scalar($in[$from === null ? 'from' : 'to'] ?? null) ? $in[$from === null ? 'from' : 'to'] : null,
            );
        } elseif ($from > $to) {
            $problems[] = new Problem('outing_backwards', 'to', $to, ['from' => $from, 'to' => $to]);
        } elseif (self::days($from, $to) > self::MOST_DAYS) {
            $problems[] = new Problem('outing_long', 'to', $to, [
                'days' => self::days($from, $to),
                'most' => self::MOST_DAYS,
            ]);
        }
        $area = null;
        if (isset($in['area'])) {
            try {
                $area =
                    is_array($in['area']) && count($in['area']) === 4
                        ? Box::of(...array_values($in['area']))
                        : throw Refused::because('box_no_numbers', 'area');
            } catch (Refused $e) {
                array_push($problems, ...$e->problems);
            }
        }
        [$chosen, $target, $count] = self::aim($in, $layers, $problems);
        $list = self::things($in['checklist'] ?? [], $problems);
        if ($problems !== [] || $from === null || $to === null) {
            throw Refused::for($problems === [] ? [new Problem('outing_days', 'from')] : $problems);
        }

        return new self(
            $title,
            $note,
            is_int($crew) ? $crew : null,
            $from,
            $to,
            $area,
            $chosen,
            $target,
            $count,
            $list,
        );
    }

    /** The share of the target that should be reached by the end of a day: evenly over the days of the outing. */
    public static function due(string $from, string $to, string $today): float
    {
        return $today < $from ? 0.0 : ($today >= $to ? 1.0 : self::days($from, $today) / self::days($from, $to));
    }

    /** @return 'ahead'|'on'|'behind'|'done'|'open' how an outing stands on a day */
    public static function state(int $done, ?int $wanted, float $due): string
    {
        return match (true) {
            $wanted === null || $wanted === 0 => 'open',
            $done >= $wanted => 'done',
            $done >= $wanted * $due => $due > 0 && $done > $wanted * $due * 1.2 ? 'ahead' : 'on',
            default => 'behind',
        };
    }

    private static function days(string $from, string $to): int
    {
        return intdiv(Moment::seconds("{$to}T00:00:00Z") - Moment::seconds("{$from}T00:00:00Z"), 86_400) + 1;
    }

    /**
     * @param  array<mixed>  $in
     * @param  array<int, bool>  $layers
     * @param  list<Problem>  $problems
     * @return array{list<int>, 'none'|'records'|'visits', int|null}
     */
    private static function aim(array $in, array $layers, array &$problems): array
    {
        $chosen = [];
        foreach (is_array($in['layers'] ?? null) ? $in['layers'] : [] as $layer) {
            if (! is_int($layer) || ! isset($layers[$layer])) {
                $problems[] = new Problem('layer_unknown', 'layers', is_scalar($layer) ? $layer : null);
            } elseif (! in_array($layer, $chosen, true)) {
                $chosen[] = $layer;
            }
        }
        if ($chosen === [] && $problems === []) {
            $problems[] = new Problem('outing_layers', 'layers');
        }
        $target = $in['target'] ?? 'none';
        if ($target !== 'none' && $target !== 'records' && $target !== 'visits') {
            $problems[] = new Problem('outing_target', 'target', is_scalar($target) ? $target : null);
            $target = 'none';
        }
        $count = $in['count'] ?? null;
        if ($target === 'records' && (! is_int($count) || $count < 1 || $count > 1_000_000)) {
            $problems[] = new Problem('outing_count', 'count', is_scalar($count) ? $count : null);
        }
        if ($target === 'visits' && array_filter($chosen, static fn (int $l): bool => $layers[$l]) === []) {
            $problems[] = new Problem('outing_visits', 'target');
        }

        return [$chosen, $target, $target === 'records' && is_int($count) ? $count : null];
    }

    /**
     * @param  list<Problem>  $problems
     * @return list<string>
     */
    private static function things(mixed $list, array &$problems): array
    {
        if (! is_array($list) || ! array_is_list($list)) {
            $problems[] = new Problem('must_be_list', 'checklist');

            return [];
        }
        $things = [];
        foreach ($list as $i => $thing) {
            if (! is_string($thing) || mb_strlen($thing) > 120) {
                $problems[] = new Problem(
                    'outing_thing',
                    "checklist/$i",
                    is_scalar($thing) ? mb_substr((string) $thing, 0, 40) : null,
                );
            } elseif (trim($thing) !== '' && ! in_array(trim($thing), $things, true)) {
                $things[] = trim($thing);
            }
        }
        if (count($things) > self::MOST_THINGS) {
            $problems[] = new Problem('too_many', 'checklist', count($things), [
                'count' => count($things),
                'most' => self::MOST_THINGS,
            ]);
        }

        return $things;
    }
}
