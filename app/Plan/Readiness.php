<?php

declare(strict_types=1);

namespace App\Plan;

use App\Backdrops;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Records\Acceptance;
use App\Records\VisibleRecords;
use App\Rights\AudienceName;
use App\Rights\AudienceRules;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Plan\LayerFacts;
use PinYard\Plan\ReadyCheck;
use PinYard\Plan\ReadyLine;

/** Gathers what the ready check asks for, and says its lines in words. */
final class Readiness
{
    /** Bytes that a record takes on a phone, on average (measured on the demo). */
    private const RECORD_BYTES = 700;

    /** @return list<array<string, mixed>> */
    public static function of(Programme $programme, User $viewer): array
    {
        $layers = ShownThings::layers($programme);
        $counts = VisibleRecords::counts($viewer, $layers);
        $records = (int) $layers->sum(static fn (Layer $l): int => $counts[$l->id][0]);
        $bytes =
            $records * self::RECORD_BYTES + (int) array_sum(array_column(Backdrops::for($programme->area()), 'bytes'));
        $mapped = DB::table('map_layers')
            ->whereIn('map_id', $programme->maps()->select('id'))
            ->distinct()
            ->pluck('layer_id')
            ->all();
        $tried = DB::table('record_history')->whereIn('layer_id', $layers->modelKeys())->where('kind', 'delete')
            ->distinct()->pluck('layer_id')->all();
        // To whom the programme's own people are is told apart: not all of them see all that all may open.
        $things = array_filter(
            ShownThings::of($programme, $viewer, $layers),
            static fn (array $t): bool => $t['audience'] === 'link' || $t['audience'] === 'some',
        );
        $open = array_merge([], ...array_column(
            array_filter($things, static fn (array $t): bool => $t['audience'] === 'link'),
            'layers',
        ));
        $facts = array_values($layers
            ->map(
                static fn (Layer $l): LayerFacts => new LayerFacts(
                    $l->id,
                    $l->design(),
                    in_array($l->id, $mapped, true),
                    // Whoever has collected for real has tried it, too.
                    in_array($l->id, $tried, true) || $counts[$l->id][0] >= 20,
                    in_array($l->id, $open, true),
                    AudienceRules::rule($l, AudienceName::link())->tellsPlaces(),
                    AudienceRules::said($l, AudienceName::link()) !== null,
                    AudienceRules::rule($l, AudienceName::link())->accepted ? Acceptance::left($viewer, $l) : 0,
                ),
            )
            ->all());
        $lines = ReadyCheck::of(
            $facts,
            $programme->members()->where('role', Role::Crew)->count(),
            $programme->area(),
            $bytes,
            array_column(Questions::of($programme), 'state'),
            $things === []
                ? null
                : count(array_filter($things, static fn (array $t): bool => $t['closed'] !== [])),
        );

        return array_map(
            static fn (ReadyLine $l): array => [
                'code' => $l->code,
                'holds' => $l->holds,
                'fix' => $l->fix,
                'layer' => $l->layer,
                'message' => Texts::of("ready.$l->code".($l->holds ? '' : '.missing'), $l->params),
                'why' => Texts::of("ready.$l->code.why", $l->params),
            ],
            $lines,
        );
    }
}
