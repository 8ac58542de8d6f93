<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Support\Facades\DB;

/** Where a person is signed in: each is one stored session, and goes when it is ended. */
final class Devices
{
    /**
     * @return list<array{id: string, agent: string, address: string|null, seen_at: string, here: bool}> the newest
     *     first; ids are no session ids
     */
    public static function of(User $user, string $here): array
    {
        $devices = [];
        foreach (
            DB::table('sessions')
                ->where('user_id', $user->id)
                ->orderByDesc('last_activity')
                ->limit(100)
                ->get(['id', 'ip_address', 'user_agent', 'last_activity']) as $row
        ) {
            $devices[] = [
                'id' => self::name((string) $row->id),
                'agent' => self::agent((string) $row->user_agent),
                'address' => $row->ip_address,
                'seen_at' => gmdate('Y-m-d\TH:i:s\Z', (int) $row->last_activity),
                'here' => $row->id === $here,
            ];
        }

        return $devices;
    }

    public static function signOut(User $user, string $name): bool
    {
        foreach (DB::table('sessions')->where('user_id', $user->id)->pluck('id') as $id) {
            if (hash_equals(self::name((string) $id), $name)) {
                return DB::table('sessions')->where('id', $id)->delete() > 0;
            }
        }

        return false;
    }

    /** @param  string|null  $but  a session that stays */
    public static function signOutAll(User $user, ?string $but = null): void
    {
        DB::table('sessions')
            ->where('user_id', $user->id)
            ->when($but !== null, static fn ($q) => $q->where('id', '!=', $but))
            ->delete();
    }

    /** A session's id is a key and is told to nobody. */
    private static function name(string $id): string
    {
        return substr(hash('sha256', "device:$id"), 0, 32);
    }

    /** What a browser calls itself, in a few words. */
    private static function agent(string $agent): string
    {
        $browser =
            preg_match('/(Edg|OPR|Firefox|HeadlessChrome|Chrome|Safari)\/(\d+)/', $agent, $b) === 1
                ? strtr($b[1], ['Edg' => 'Edge', 'OPR' => 'Opera', 'HeadlessChrome' => 'Chrome'])." $b[2]"
                : '';
        // Each of the later ones also stands in what some of the earlier ones say.
        $systems = array_filter(
            ['Android', 'iPhone', 'iPad', 'Windows', 'Mac OS X', 'Linux'],
            static fn (string $s): bool => str_contains($agent, $s),
        );
        $system = strtr((string) reset($systems), ['Mac OS X' => 'macOS']);

        return trim("$browser, $system", ', ') ?: mb_substr(mb_scrub($agent), 0, 60);
    }
}
