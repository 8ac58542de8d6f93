<?php

declare(strict_types=1);

namespace App\People;

use App\Mailing\Letter;
use App\Models\User;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/**
 * Mails a link by which a person chooses a new password. In the queue, so that whoever asked learns nothing of whether
 * there is an account, also not by how long the answer takes.
 */
final class SendPasswordReset implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    private const MINUTES = 60;

    public function __construct(private readonly string $email)
    {
    }

    public function handle(): void
    {
        $user = User::query()->where('email', $this->email)->first();
        if ($user === null) {
            return;
        }
        $token = Str::random(40);
        DB::table('password_resets')->where('user_id', $user->id)->orWhere('expires_at', '<', now())->delete();
        DB::table('password_resets')->insert([
            'token_hash' => hash('sha256', $token),
            'user_id' => $user->id,
            'expires_at' => now()->addMinutes(self::MINUTES),
        ]);
        Letter::send($user->email, $user->language, 'mail.reset', [
            'name' => $user->name,
            'address' => config('app.url')."/reset/$token",
            'minutes' => self::MINUTES,
        ]);
    }

    /** @return User|null whose link it is, while it can be used */
    public static function owner(string $token, bool $lock = false): ?User
    {
        $row = DB::table('password_resets')
            ->where('token_hash', hash('sha256', $token))
            ->where('expires_at', '>', now())
            ->when($lock, static fn ($q) => $q->lockForUpdate())
            ->first();

        return $row === null ? null : User::query()->whereKey($row->user_id)->first();
    }

    /** One use: the new password, every device signed out, the address proved. */
    public static function use(string $token, string $password): ?User
    {
        return DB::transaction(static function () use ($token, $password): ?User {
            $user = self::owner($token, true);
            if ($user === null) {
                return null;
            }
            Passwords::allow($password, $user->name, $user->email);
            $user
                ->forceFill(['password' => $password, 'email_verified_at' => $user->email_verified_at ?? now()])
                ->save();
            DB::table('password_resets')->where('user_id', $user->id)->delete();
            Devices::signOutAll($user);
            AccountNews::tell($user->email, $user, AccountNews::PASSWORD);

            return $user;
        });
    }
}
