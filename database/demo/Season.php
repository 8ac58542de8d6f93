<?php

declare(strict_types=1);

namespace Demo;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\Shelf;
use App\Models\User;
use App\Plan\Outings;

/** What a season under way has around its records: outings, shelves, purposes. */
final class Season
{
    public static function around(Programme $programme, Layer $nests, User $mara): void
    {
        $day = static fn (int $from): string => now($programme->time_zone)->addDays($from)->toDateString();
        $layer = static fn (string $title): int => (int) $programme->layers()->where('title', $title)->value('id');
        $crew = static fn (string $name): int => (int) $programme->crews()->where('name', $name)->value('id');
        $pack = ['Charged phone and power bank', 'Stakes and tape', 'Red headlamp', 'Water', 'First aid'];
        foreach (
            [
                [
                    'title' => 'Every nest seen this week',
                    'crew' => null,
                    'from' => $day(-4),
                    'to' => $day(2),
                    'layers' => [$nests->id],
                    'target' => 'visits',
                    'note' => 'Low tide at six; begin at the far end.',
                ],
                [
                    'title' => 'Dawn walks, north beaches',
                    'crew' => $crew('Sanderling'),
                    'from' => $day(-6),
                    'to' => $day(7),
                    'layers' => [$nests->id, $layer('Dawn walks')],
                    'target' => 'records',
                    'count' => 24,
                    'note' => 'Two people a beach.',
                ],
                [
                    'title' => 'Lights along the road',
                    'crew' => $crew('Plover'),
                    'from' => $day(5),
                    'to' => $day(6),
                    'layers' => [$layer('Beach sectors')],
                    'target' => 'none',
                    'note' => '',
                ],
            ] as $outing
        ) {
            Outings::save($programme, null, $outing + ['checklist' => $pack, 'count' => null]);
        }
        $season = Shelf::query()->create(['programme_id' => $programme->id, 'name' => 'This season']);
        Shelf::query()->create(['programme_id' => $programme->id, 'name' => 'Reference']);
        foreach ([$programme->layers()->get(), $programme->maps()->get(), $programme->boards()->get()] as $things) {
            foreach ($things as $thing) {
                $reference = $thing instanceof Layer && $thing->title === 'Beach sectors';
                $thing->update([
                    'owner_id' => $mara->id,
                    'tags' => $reference ? ['beaches'] : ['turtles'],
                    'purposes' => $reference ? [] : ['live'],
                    'shelf_id' => $season->id + ($reference ? 1 : 0),
                ]);
            }
        }
        $programme->update(['owner_id' => $mara->id, 'purposes' => ['live'], 'tags' => ['turtles']]);
    }
}
