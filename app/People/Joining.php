<?php

declare(strict_types=1);

namespace App\People;

use App\Audit\Audit;
use App\Models\Invitation;
use App\Models\Role;
use App\Models\User;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Problem;
use PinYard\Refused;

/**
 * A person who was invited joins: with a new account, or with the one that is there and its password. Only a link that
 * was mailed to an address proves that whoever opens it has that address; a link that was handed over proves nothing of
 * the kind.
 */
final class Joining
{
    /**
     * @param  string  $name  who it is, where the invitation is for many; likewise the address
     *
     * @throws Refused
     */
    public static function accept(string $token, string $password, string $name = '', string $email = ''): User
    {
        return DB::transaction(static function () use ($token, $password, $name, $email): User {
            // Locked, so that of eight at once one joins, and the others find the link used.
            $invitation = Invitation::byToken($token)->lockForUpdate()->first();
            if ($invitation === null || ! $invitation->isOpen()) {
                abort(404);
            }
            [$name, $email] = self::who($invitation, $name, $email);
            $mailed = $invitation->wasMailed($token);
            $user = User::query()->where('email', $email)->lockForUpdate()->first();
            if ($user === null) {
                Passwords::allow($password, $name, $email);
                $user = User::query()->create([
                    'name' => $name,
                    'email' => $email,
                    'password' => $password,
                ]);
                $user->forceFill(['language' => Texts::spoken()])->save();
            } elseif (! Passwords::fits($user, $password)) {
                // An account whose address nobody has proved gives way to whoever proves it.
                if (! $mailed || $user->email_verified_at !== null) {
                    throw Refused::for([new Problem('join_password', 'password')]);
                }
                Passwords::allow($password, $user->name, $user->email);
                $user->forceFill(['password' => $password])->save();
                Devices::signOutAll($user);
            }
            if ($mailed && $user->email_verified_at === null) {
                $user->forceFill(['email_verified_at' => now()])->save();
            }
            $member = $invitation->programme->members()->where('user_id', $user->id)->lockForUpdate()->first();
            // Nobody becomes less by opening a link, least of all the last coordinator.
            $role = $member !== null && self::isMore($member->role, $invitation->role)
                ? $member->role
                : $invitation->role;
            $joined = $invitation->programme
                ->members()
                ->updateOrCreate(
                    ['user_id' => $user->id],
                    [
                        'role' => $role,
                        'makes' => $invitation->makes || $member?->makes === true
                            || ($member !== null && $role !== Role::Maker && in_array(
                                Role::Maker,
                                [$member->role, $invitation->role],
                                true,
                            )),
                        'crew_id' => $invitation->crew_id ?? $member?->crew_id,
                    ],
                );
            // Of groups that have gone meanwhile nothing is left to join.
            $joined->groups()->syncWithoutDetaching(
                $invitation->programme->groups()->whereKey($invitation->groups ?? [])->pluck('id'),
            );
            $used = $invitation->used + ($member === null ? 1 : 0);
            $invitation->forceFill([
                'used' => $used,
                'accepted_at' => $invitation->most === null || $used >= $invitation->most ? now() : null,
            ])->save();
            Audit::note($invitation->programme_id, 'joined', ['name' => $user->name, 'role' => $role->value], $user);

            return $user;
        }, 3);
    }

    /**
     * @return array{string, string} name and address of whoever joins
     *
     * @throws Refused
     */
    private static function who(Invitation $invitation, string $name, string $email): array
    {
        if ($invitation->most === null) {
            return [$invitation->name, $invitation->email];
        }
        $name = trim((string) preg_replace('/[\s\p{Cc}]+/u', ' ', $name));
        $email = mb_strtolower(trim($email));
        $problems = [
            ...$name === '' || mb_strlen($name) > 120 ? [new Problem('empty', 'name')] : [],
            ...strlen($email) > 190 || filter_var($email, FILTER_VALIDATE_EMAIL) === false
                ? [new Problem('people_email', 'email')]
                : [],
        ];

        return $problems === [] ? [$name, $email] : throw Refused::for($problems);
    }

    /** Whether a role lets somebody do more than another: who makes and who goes out stays so, and does both. */
    private static function isMore(Role $a, Role $b): bool
    {
        $order = [Role::Coordinator, Role::Crew, Role::Maker, Role::Guest];

        return array_search($a, $order, true) < array_search($b, $order, true);
    }
}
