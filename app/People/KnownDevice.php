<?php

declare(strict_types=1);

namespace App\People;

use Illuminate\Http\Request;
use Illuminate\Support\Facades\Cookie;
use Illuminate\Support\Str;

/**
 * A browser in which an account has been signed in before (OWASP, device cookies): strangers who guess at a password
 * from many addresses use up the tries of strangers, and do not lock its owner out.
 */
final class KnownDevice
{
    private const COOKIE = 'pinyard_known';

    private const YEAR = 525_600;

    private const MOST = 10;

    public static function remember(Request $request, string $email): void
    {
        $known = self::read($request);
        $known['accounts'] = array_slice(
            array_values(array_unique([self::name($email), ...$known['accounts']])),
            0,
            self::MOST,
        );
        Cookie::queue(Cookie::make(self::COOKIE, (string) json_encode($known), self::YEAR, httpOnly: true));
    }

    /** @return string|null a name of the device, where this account was signed in on it */
    public static function of(Request $request, string $email): ?string
    {
        $known = self::read($request);

        return in_array(self::name($email), $known['accounts'], true) ? $known['device'] : null;
    }

    /** @return array{device: string, accounts: list<string>} */
    private static function read(Request $request): array
    {
        $cookie = $request->cookie(self::COOKIE);
        $known = is_string($cookie) ? json_decode($cookie, true) : null;

        return is_array($known) && is_string($known['device'] ?? null) && is_array($known['accounts'] ?? null)
            ? [
                'device' => $known['device'],
                'accounts' => array_values(array_filter($known['accounts'], is_string(...))),
            ]
            : ['device' => Str::random(24), 'accounts' => []];
    }

    private static function name(string $email): string
    {
        return substr(hash('sha256', 'account:'.mb_strtolower(trim($email))), 0, 20);
    }
}
