<?php

declare(strict_types=1);

namespace App\People;

use App\Audit\Audit;
use App\Models\Programme;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\People\Totp;
use PinYard\Refused;

/** The second factor of a person: codes of an authenticator app, and a few to write down for when it is lost. */
final class SecondFactor
{
    private const RECOVERY = 10;

    /**
     * Begins: the app is told the secret, and nothing is asked for yet.
     *
     * @return array{secret: string, address: string}
     *
     * @throws Refused where there is one already
     */
    public static function begin(User $user): array
    {
        if ($user->totp_since !== null) {
            throw Refused::because('second_there', 'code');
        }
        $secret = Totp::secret();
        $user->forceFill(['totp_secret' => $secret, 'totp_last' => 0])->save();

        return ['secret' => $secret, 'address' => Totp::address($secret, $user->email, 'Pin Yard')];
    }

    /**
     * From now on it is asked for: the app has shown that it knows the secret.
     *
     * @return list<string> codes to write down, told this once
     *
     * @throws Refused
     */
    public static function confirm(User $user, string $code): array
    {
        return DB::transaction(static function () use ($user, $code): array {
            $now = User::query()->lockForUpdate()->findOrFail($user->id);
            $step = $now->totp_secret === null || $now->totp_since !== null
                ? null
                : Totp::stepOf($now->totp_secret, $code, now()->getTimestamp(), $now->totp_last);
            if ($step === null) {
                throw Refused::because('second_wrong', 'code');
            }
            $codes = self::make();
            $now->forceFill([
                'totp_since' => now(),
                'totp_last' => $step,
                'recovery_codes' => array_map(
                    static fn (string $one): string => self::hash($one, bin2hex(random_bytes(16))),
                    $codes,
                ),
            ])->save();

            return $codes;
        });
    }

    public static function end(User $user): void
    {
        $user->forceFill([
            'totp_secret' => null, 'totp_since' => null, 'totp_last' => 0, 'recovery_codes' => null,
        ])->save();
    }

    /**
     * Whether a programme demands it of who coordinates it; only whoever has one can do so.
     *
     * @throws Refused
     */
    public static function demand(Programme $programme, bool $on, User $by): void
    {
        if ($on && ! self::isAskedOf($by)) {
            throw Refused::because('second_first', 'second_factor');
        }
        if ($programme->second_factor !== $on) {
            $programme->forceFill(['second_factor' => $on])->save();
            Audit::note($programme->id, $on ? 'second_demanded' : 'second_undemanded', []);
        }
    }

    public static function isAskedOf(User $user): bool
    {
        return $user->totp_since !== null;
    }

    /** Takes a code of the app, or one that was written down; each goes once. */
    public static function takes(User $user, string $code): bool
    {
        return DB::transaction(static function () use ($user, $code): bool {
            // Locked, so that of two at once with the same code one comes in.
            $now = User::query()->lockForUpdate()->findOrFail($user->id);
            $step = Totp::stepOf((string) $now->totp_secret, $code, now()->getTimestamp(), $now->totp_last);
            if ($step !== null) {
                $now->forceFill(['totp_last' => $step])->save();

                return true;
            }
            $left = array_values(array_filter(
                $now->recovery_codes ?? [],
                static fn (string $one): bool => ! hash_equals($one, self::hash($code, explode(':', $one)[0])),
            ));
            if (count($left) === count($now->recovery_codes ?? [])) {
                return false;
            }
            $now->forceFill(['recovery_codes' => $left])->save();

            return true;
        });
    }

    /** @return list<string> of 64 bits each, in letters and digits that are not taken for one another */
    private static function make(): array
    {
        return array_map(
            static fn (): string => implode('-', str_split(strtolower(substr(Totp::secret(), 0, 13)), 5)),
            range(1, self::RECOVERY),
        );
    }

    /** They are random; with a salt of its own for each, a table of hashes made beforehand finds none. */
    private static function hash(string $code, string $salt): string
    {
        $plain = strtolower(preg_replace('/[^A-Za-z0-9]/', '', $code) ?? '');

        return "$salt:".hash_hmac('sha256', $plain, $salt);
    }
}
