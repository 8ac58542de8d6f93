<?php

declare(strict_types=1);

namespace App\People;

use App\Audit\Audit;
use App\Models\Invitation;
use App\Models\Role;
use App\Models\User;
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
    public static function accept(string $token, string $password): User
    {
        return DB::transaction(static function () use ($token, $password): User {
            // Locked, so that of eight at once one joins, and the others find the link used.
            $invitation = Invitation::byToken($token)->lockForUpdate()->first();
            if ($invitation === null || ! $invitation->isOpen()) {
                abort(404);
            }
            $mailed = $invitation->wasMailed($token);
            $user = User::query()->where('email', $invitation->email)->lockForUpdate()->first();
            if ($user === null) {
                Passwords::allow($password, $invitation->name, $invitation->email);
                $user = User::query()->create([
                    'name' => $invitation->name,
                    'email' => $invitation->email,
                    'password' => $password,
                ]);
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
            $invitation->forceFill(['accepted_at' => now()])->save();
            Audit::note($invitation->programme_id, 'joined', ['name' => $user->name, 'role' => $role->value], $user);

            return $user;
        }, 3);
    }

    /** Whether a role lets somebody do more than another: who makes and who goes out stays so, and does both. */
    private static function isMore(Role $a, Role $b): bool
    {
        $order = [Role::Coordinator, Role::Crew, Role::Maker, Role::Guest];

        return array_search($a, $order, true) < array_search($b, $order, true);
    }
}
