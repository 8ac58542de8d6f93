<?php

declare(strict_types=1);

namespace App\Alerts;

use App\Boards\BoardThings;
use App\Language;
use App\Models\Alert;
use App\Models\Crew;
use App\Models\Member;
use App\Models\Programme;
use App\Rights\Viewer;
use App\Texts;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use PinYard\Alert\AlertPlan;
use PinYard\Alert\Watched;
use PinYard\Refused;

/**
 * Works one alert out: what has begun since it was last, for each way of seeing, is put down as notices, once. Whoever
 * sees in a way that was not worked out before is told of what begins from then on.
 */
final class AlertRun
{
    /** @throws Refused */
    public static function plan(mixed $in, Programme $programme): AlertPlan
    {
        $crews = Crew::query()->where('programme_id', $programme->id)->pluck('id')->all();

        return AlertPlan::read($in, BoardThings::of($programme), array_values(array_map(intval(...), $crews)));
    }

    /** Under the alert's lock: two that come at once tell nothing twice. */
    public static function of(int $id): void
    {
        DB::transaction(static function () use ($id): void {
            $alert = Alert::query()->with('programme.layers')->lockForUpdate()->find($id);
            if ($alert === null || $alert->paused) {
                return;
            }
            $seen = AlertState::of($alert);
            if ($alert->seen === $seen && ! $alert->waits) {
                return;
            }
            [$trouble, $waits] = [null, false];
            try {
                $plan = self::plan(['name' => $alert->name] + $alert->plan, $alert->programme);
                $ways = Recipients::of($plan, $alert->programme);
                foreach ($ways as $way => $members) {
                    try {
                        $waits = self::tell($alert, $plan, $way, $members, $alert->seen === $seen) || $waits;
                    } catch (Refused $e) {
                        // What one crew may not see must not keep it from the others.
                        $trouble = json_encode(Texts::problems($e->problems)[0]);
                    }
                }
                self::forgetOthers($alert, array_keys($ways));
            } catch (Refused $e) {
                $trouble = json_encode(Texts::problems($e->problems)[0]);
            }
            $alert->timestamps = false;
            $alert->forceFill(['seen' => $seen, 'waits' => $waits, 'trouble' => $trouble])->save();
        }, 3);
    }

    /** @param  list<string>  $ways  of seeing that there are now */
    private static function forgetOthers(Alert $alert, array $ways): void
    {
        DB::table('alert_watches')->where('alert_id', $alert->id)->whereNotIn('way', $ways)->delete();
    }

    /**
     * @param  non-empty-list<Member>  $members  who see alike
     * @param  bool  $same  whether nothing has changed, and only the time has passed
     * @return bool whether there are cases that were not told yet
     *
     * @throws Refused
     */
    private static function tell(Alert $alert, AlertPlan $plan, string $way, array $members, bool $same): bool
    {
        $row = DB::table('alert_watches')->where('alert_id', $alert->id)->where('way', $way)->first();
        $keepsStill = $plan->rest->keepsStill(
            now()->toImmutable(),
            $row?->told_at === null ? null : Carbon::parse($row->told_at)->toDateTimeImmutable(),
            new \DateTimeZone($alert->programme->time_zone),
        );
        if ($same && $row !== null && ($keepsStill || $row->waiting === '[]')) {
            return $row->waiting !== '[]';
        }
        $cases = new AlertCases($plan->rule, $alert->programme, Viewer::person($members[0]->user));
        $watched = $row === null
            ? new Watched($cases->keys)
            : (new Watched(self::keys($row->known), self::keys($row->waiting)))->after($cases->keys);
        $tells = $watched->waiting !== [] && ! $keepsStill;
        if ($tells) {
            $languages = [];
            foreach ($members as $member) {
                $languages[$member->user->language ?? Language::FIRST][] = $member;
            }
            foreach ($languages as $language => $readers) {
                $told = Texts::in(
                    $language,
                    static fn (): array => $cases->told($alert->name, $watched->waiting),
                );
                self::notices($alert, $plan, $readers, $told);
            }
            $watched = $watched->told();
        }
        DB::table('alert_watches')->updateOrInsert(['alert_id' => $alert->id, 'way' => $way], [
            'known' => json_encode($watched->known),
            'waiting' => json_encode($watched->waiting),
            'told_at' => $tells ? now() : $row->told_at ?? null,
        ]);

        return $watched->waiting !== [];
    }

    /** @return list<string> */
    private static function keys(string $kept): array
    {
        return array_values(array_map(strval(...), (array) json_decode($kept, true)));
    }

    /**
     * @param  list<Member>  $members
     * @param  array{text: string, records: list<array{id: string, name: string|null}>, layer: int|null,
     *     path: string}  $told
     */
    private static function notices(Alert $alert, AlertPlan $plan, array $members, array $told): void
    {
        DB::table('notices')->insert(array_map(static fn (Member $m): array => [
            'alert_id' => $alert->id,
            'programme_id' => $alert->programme_id,
            'user_id' => $m->user_id,
            'layer_id' => $told['layer'],
            'text' => $told['text'],
            'records' => json_encode($told['records']),
            'path' => $told['path'],
            'made_at' => now(),
            'on_phone' => $plan->onPhones,
            'mail' => $plan->byMail ? 'due' : 'no',
        ], $members));
    }
}
