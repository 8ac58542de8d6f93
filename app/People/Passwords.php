<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Str;
use PinYard\People\NewPassword;
use PinYard\Refused;

/**
 * Choosing and checking passwords. They are kept as Argon2id, which reads all of them, however long; older hashes are
 * turned at the next sign-in.
 */
final class Passwords
{
    /** @throws Refused when it is too short, common, or the person's own name */
    public static function allow(string $password, string $name, string $email): void
    {
        $problem = NewPassword::problem($password, self::isCommon(...), [
            $name,
            ...explode(' ', $name),
            $email,
            explode('@', $email)[0],
            'pin yard',
            'pinyard',
        ]);
        if ($problem !== null) {
            throw Refused::for([$problem]);
        }
    }

    /** Whether it is the password of this account; takes as long where there is none. */
    public static function fits(?User $user, string $password): bool
    {
        $hash =
            $user->password ??
            Cache::rememberForever(
                'nobodys-password:'.md5((string) json_encode(config('hashing'))),
                static fn (): string => Hash::make(Str::random(40)),
            );
        $fits = Hash::check($password, $hash) && $user !== null;
        if ($fits && Hash::needsRehash($hash)) {
            $user->forceFill(['password' => $password])->save();
        }

        return $fits;
    }

    /** By the list that ships (resources/common-passwords.txt), which is sorted by bytes. */
    private static function isCommon(string $word): bool
    {
        $file =
            fopen(resource_path('common-passwords.txt'), 'rb') ?:
            throw new \RuntimeException('the list of common passwords is missing');
        $found = false;
        while (! $found && ($line = fgets($file)) !== false) {
            $found = rtrim($line, "\n") === $word;
        }
        fclose($file);

        return $found;
    }
}
