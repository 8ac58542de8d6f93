<?php

declare(strict_types=1);

namespace App\People;

use App\Audit\Audit;
use App\Mailing\Letter;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Another mail address for an account: it becomes that when somebody opens what was mailed there, and until then the
 * old one stays. Whether the new one belongs to another account is told to nobody but whoever reads its mail.
 */
final class AddressChange
{
    private const MINUTES = 60;

    public static function ask(User $user, string $email): void
    {
        $token = Str::random(40);
        // Of two that were asked for the later one counts.
        DB::table('address_changes')->where('user_id', $user->id)->orWhere('expires_at', '<', now())->delete();
        DB::table('address_changes')->insert([
            'token_hash' => hash('sha256', $token),
            'user_id' => $user->id,
            'email' => $email,
            'expires_at' => now()->addMinutes(self::MINUTES),
        ]);
        $words = [
            'name' => $user->name,
            'address' => config('app.url')."/address/$token",
            'minutes' => self::MINUTES,
        ];
        $language = $user->language;
        dispatch(static fn () => Letter::send($email, $language, 'mail.address', $words))->afterCommit();
    }

    /** @return array{name: string, email: string}|null what a link is for, while it can be used */
    public static function of(string $token): ?array
    {
        $row = self::row($token, false);

        return $row === null ? null : ['name' => (string) $row->name, 'email' => (string) $row->email];
    }

    /**
     * @return bool whether there was something to use
     *
     * @throws Refused where another account has the address by now
     */
    public static function use(string $token): bool
    {
        return DB::transaction(static function () use ($token): bool {
            $row = self::row($token, true);
            if ($row === null) {
                return false;
            }
            $user = User::query()->lockForUpdate()->findOrFail((int) $row->user_id);
            if (User::query()->where('email', $row->email)->whereKeyNot($user->id)->lockForUpdate()->exists()) {
                throw Refused::for([new Problem('address_taken', 'email')]);
            }
            $was = $user->email;
            $user->forceFill(['email' => $row->email, 'email_verified_at' => now()])->save();
            DB::table('address_changes')->where('user_id', $user->id)->delete();
            // A link that was mailed to the old one for a new password must not lead anywhere any more.
            DB::table('password_resets')->where('user_id', $user->id)->delete();
            Audit::note(null, 'address', ['name' => $user->name], $user);
            AccountNews::tell($was, $user, AccountNews::ADDRESS);

            return true;
        });
    }

    private static function row(string $token, bool $lock): ?\stdClass
    {
        return DB::table('address_changes as a')
            ->join('users as u', 'u.id', '=', 'a.user_id')
            ->where('a.token_hash', hash('sha256', $token))
            ->where('a.expires_at', '>', now())
            ->when($lock, static fn ($q) => $q->lockForUpdate())
            ->first(['a.user_id', 'a.email', 'u.name']);
    }
}
