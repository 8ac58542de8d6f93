<?php

declare(strict_types=1);

namespace App\Alerts;

use App\Mailing\Letter;
use App\Models\Alert;
use App\Texts;
use Illuminate\Support\Facades\DB;

/** Works out all alerts, and sends what is to be mailed. Run every few seconds; mostly nothing has changed. */
final class AlertRounds
{
    private const KEPT_DAYS = 180;

    public static function run(): void
    {
        $alerts = Alert::query()->where('paused', false)
            ->whereHas('programme', static fn ($q) => $q->whereNull('deleted_at'))->orderBy('id')->pluck('id');
        foreach ($alerts as $id) {
            // One that fails must not hold up the others; it is tried again.
            rescue(static fn () => AlertRun::of((int) $id));
        }
        self::mail();
    }

    /** What was told long ago. */
    public static function forget(): void
    {
        DB::table('notices')->where('made_at', '<', now()->subDays(self::KEPT_DAYS))->delete();
    }

    /** A mail that was sent before the process was killed is sent again rather than never. */
    private static function mail(): void
    {
        $due = DB::table('notices as n')->join('users as u', 'u.id', '=', 'n.user_id')
            ->join('programmes as p', 'p.id', '=', 'n.programme_id')
            ->join('alerts as a', 'a.id', '=', 'n.alert_id')
            ->where('n.mail', 'due')->orderBy('n.id')->limit(200)
            ->get(['n.*', 'u.email', 'u.unwanted_mails', 'u.language', 'u.name as person', 'p.name as programme',
                'a.name as alert']);
        foreach ($due as $notice) {
            rescue(static function () use ($notice): void {
                // Who has left meanwhile is not told any more, nor who wants no mails of alerts; the bell has them.
                $wants = ! str_contains((string) $notice->unwanted_mails, '"alerts"');
                if ($wants
                    && Notices::mayHear((int) $notice->user_id, (int) $notice->programme_id, $notice->layer_id)) {
                    Letter::send((string) $notice->email, $notice->language, 'mail.alert', [
                        'name' => (string) $notice->person,
                        'programme' => (string) $notice->programme,
                        'alert' => (string) $notice->alert,
                        'text' => Texts::in($notice->language, static fn (): string => Notices::sentence($notice)),
                        'address' => config('app.url').$notice->path,
                    ]);
                }
                DB::table('notices')->where('id', $notice->id)->update(['mail' => 'sent']);
            });
        }
    }
}
