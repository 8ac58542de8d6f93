<?php

declare(strict_types=1);

namespace App;

use Illuminate\Http\Request;

/**
 * Languages that people read in: each has a catalogue in resources/texts. A person chooses theirs on their own page;
 * nginx gives the screens in the one that the cookie or the browser names, and screens say with each request which one
 * they are in, so that an answer never mixes with another language.
 */
final class Language
{
    public const KNOWN = ['en', 'de'];

    /** What is said where nobody asks, and to whoever reads none of them. */
    public const FIRST = 'en';

    public const HEADER = 'Pin-Yard-Language';

    /** Whoever works in this browser reads this language; the screens set it, and remove it on signing out. */
    public const COOKIE = 'pin_yard_language';

    /** In which language to answer. */
    public static function askedFor(Request $request): string
    {
        return self::known($request->headers->get(self::HEADER))
            ?? self::known($request->cookies->get(self::COOKIE))
            ?? $request->getPreferredLanguage(self::KNOWN)
            ?? self::FIRST;
    }

    public static function known(mixed $language): ?string
    {
        return is_string($language) && in_array($language, self::KNOWN, true) ? $language : null;
    }
}
