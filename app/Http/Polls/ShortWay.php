<?php

declare(strict_types=1);

namespace App\Http\Polls;

use App\Answers\KeptAnswer;
use App\Boards\BoardPicks;
use App\Http\Middleware\SamePerson;
use App\Http\Middleware\SecurityHeaders;
use App\Http\Middleware\SeenAs;
use App\Language;
use App\Models\User;
use App\People\SessionsOfPeople;
use App\People\SignedIn;
use App\Texts;
use Illuminate\Auth\SessionGuard;
use Illuminate\Cookie\CookieValuePrefix;
use Illuminate\Encryption\Encrypter;

/**
 * Tells screens that ask every few seconds that nothing has changed, before the framework is there: that takes most of
 * what such an answer costs, and mostly nothing has.
 *
 * It says that or nothing. It has no answer to give away, only the tag of one, and says it to whoever named that tag
 * and is found to be who may have it by the same session, the same question to the database and the same name as by the
 * long way. Whatever is not just as expected goes the long way: another address, a search, a pick, a past day, somebody
 * looking as an audience does, a session that is to be written again, a fault.
 */
final class ShortWay
{
    private const ME = '/api/v1/me';

    private const BOARD = '~^/api/v1/boards/([1-9]\d{0,17})/answers$~D';

    private const SHARED_BOARD = '~^/api/v1/open/boards/([A-Za-z0-9_-]{1,80})$~D';

    private const SHARED_MAP = '~^/api/v1/open/maps/([A-Za-z0-9_-]{1,80})$~D';

    /**
     * @param  array<array-key, mixed>  $server  as php-fpm tells it
     * @param  array<array-key, mixed>  $cookies
     * @return bool whether it has answered
     */
    public static function answers(array $server, array $cookies): bool
    {
        $address = $server['REQUEST_URI'] ?? null;
        // Most requests ask for something else, and are not to be held up.
        if (! isset($server['HTTP_IF_NONE_MATCH']) || ! is_string($address)
            || self::question($address, $cookies, null) === null) {
            return false;
        }
        $var = getenv('PINYARD_VAR') ?: dirname(__DIR__, 3).'/var/demo';
        // Settings that nobody has kept (as where it is tested, or developed) are the framework's to read.
        $kept = "$var/cache/config.php";
        if (! is_file($kept) || is_file("$var/storage/framework/down")) {
            return false;
        }
        $tag = self::tag($server, $cookies, require $kept, "$var/storage");
        if ($tag === null) {
            return false;
        }
        http_response_code(304);
        $isSecure = ($server['HTTPS'] ?? '') === 'on';
        foreach (KeptAnswer::headers($tag) + SecurityHeaders::of($isSecure) as $name => $value) {
            header("$name: $value");
        }

        return true;
    }

    /**
     * The tag of what this request has, where that is still what it would be answered.
     *
     * @param  array<array-key, mixed>  $server
     * @param  array<array-key, mixed>  $cookies
     * @param  array<string, mixed>  $config  all settings
     * @param  string  $storage  folder of what this copy keeps
     */
    public static function tag(array $server, array $cookies, array $config, string $storage): ?string
    {
        $header = static function (string $name) use ($server): ?string {
            $value = $server['HTTP_'.strtr(strtoupper($name), '-', '_')] ?? null;

            return is_string($value) ? $value : null;
        };
        $address = $server['REQUEST_URI'] ?? null;
        $has = $header('If-None-Match');
        // Screens say it with each request; whoever does not is asked in other ways.
        $language = Language::known($header(Language::HEADER));
        $isPlain = $header(SeenAs::HEADER) === null && $header('Authorization') === null;
        if (($server['REQUEST_METHOD'] ?? '') !== 'GET' || ! is_string($address) || $has === null
            || $language === null || ! $isPlain) {
            return null;
        }
        $question = self::question($address, $cookies, $header(SamePerson::HEADER));
        if ($question === null) {
            return null;
        }
        $before = Texts::spoken();
        try {
            return FewParts::in($config, $storage, static function (FewParts $parts) use (
                $question,
                $language,
                $has,
            ): ?string {
                Texts::speak($language);
                $asked = $question($parts);

                return $asked === null ? null : KeptAnswer::known($asked, $has);
            });
        } catch (\Throwable) {
            // Said, and written down, by the long way.
            return null;
        } finally {
            Texts::speak($before);
        }
    }

    /**
     * @param  array<array-key, mixed>  $cookies
     * @param  string|null  $bearer  number of the person whose screen asks, where it says so
     * @return (\Closure(FewParts): (string|null))|null
     */
    private static function question(string $address, array $cookies, ?string $bearer): ?\Closure
    {
        if (preg_match(self::BOARD, $address, $found) === 1) {
            return static function (FewParts $parts) use ($found, $cookies, $bearer): ?string {
                $person = self::person($parts, $cookies);
                if ($person === null || $person->second_demanded
                    || ($bearer !== null && $bearer !== (string) $person->id)) {
                    return null;
                }

                return Asked::board($person, (int) $found[1], BoardPicks::none());
            };
        }
        if ($address === self::ME) {
            return static function (FewParts $parts) use ($cookies): ?string {
                $person = self::person($parts, $cookies);

                return $person === null ? null : Asked::me($person, SignedIn::roles($person));
            };
        }
        if (preg_match(self::SHARED_BOARD, $address, $found) === 1) {
            return static fn (): ?string => Asked::sharedBoard($found[1], BoardPicks::none());
        }
        if (preg_match(self::SHARED_MAP, $address, $found) === 1) {
            return static fn (): ?string => Asked::sharedMap($found[1], null);
        }

        return null;
    }

    /**
     * Whoever is signed in, by a session that nothing is to be written into.
     *
     * @param  array<array-key, mixed>  $cookies
     *
     * @throws \Illuminate\Contracts\Encryption\DecryptException
     */
    private static function person(FewParts $parts, array $cookies): ?User
    {
        $config = $parts->make('config');
        $name = (string) $config->get('session.cookie');
        $sealed = $cookies[$name] ?? null;
        $key = (string) base64_decode(substr((string) $config->get('app.key'), strlen('base64:')), true);
        if (! is_string($sealed) || $config->get('session.driver') !== 'database') {
            return null;
        }
        $encrypter = new Encrypter($key, (string) ($config->get('app.cipher') ?? 'AES-256-CBC'));
        $id = CookieValuePrefix::validate($name, $encrypter->decryptString($sealed), $encrypter->getAllKeys());
        if (! is_string($id) || preg_match('/^[A-Za-z0-9]{40}$/D', $id) !== 1) {
            return null;
        }
        $sessions = new SessionsOfPeople(
            $parts->make('db')->connection(),
            'sessions',
            (int) $config->get('session.lifetime'),
        );
        $session = @unserialize($sessions->read($id), ['allowed_classes' => false]);
        $person = is_array($session) ? ($session['login_web_'.sha1(SessionGuard::class)] ?? null) : null;

        return is_int($person) && $sessions->keeps($id, true) ? $sessions->person($person) : null;
    }
}
