<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Http\JsonText;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\InputBag;
use Symfony\Component\HttpFoundation\Response;

/**
 * Bodies are measured before they are parsed, and parsed once it is known who sends them; of whoever is not signed in
 * only small ones.
 */
final class ReadJson
{
    /** Bytes of bodies that are no JSON are not read here: uploads have limits of their own. */
    private const RAW = ['api/v1/uploads', 'api/v1/uploads/*', 'api/v1/imports/*/files/*'];

    private const SMALL = 64 << 10;

    /** By path, in bytes; a sync round, and designs that carry choice lists of thousands. */
    private const LIMITS = [
        'api/v1/session' => self::SMALL,
        'api/v1/join/*' => self::SMALL,
        'api/v1/open/*' => self::SMALL,
        'api/v1/password/*' => self::SMALL,
        'api/v1/address/*' => self::SMALL,
        'api/v1/sync' => JsonText::MOST_BYTES,
        'api/v1/*' => 8 << 20,
    ];

    /** @param  \Closure(Request): Response  $next */
    public function handle(Request $request, \Closure $next): Response
    {
        if (
            $request->isMethodSafe() ||
            $request->is(...self::RAW) ||
            str_starts_with((string) $request->header('Content-Type'), 'multipart/')
        ) {
            return $next($request);
        }
        $most = self::limit($request);
        if ((int) $request->header('Content-Length') > $most || strlen($body = $request->getContent()) > $most) {
            abort(413);
        }
        // A packed one is unpacked by who takes it.
        if ($body !== '' && strtolower((string) $request->header('Content-Encoding')) !== 'gzip') {
            $request->setJson(new InputBag(JsonText::read($body)));
        }

        return $next($request);
    }

    private static function limit(Request $request): int
    {
        foreach (self::LIMITS as $path => $most) {
            if ($request->is($path)) {
                return $most;
            }
        }

        return self::SMALL;
    }
}
