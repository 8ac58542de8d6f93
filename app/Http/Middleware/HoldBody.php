<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use Illuminate\Http\Request;
use PinYard\Refused;
use Symfony\Component\HttpFoundation\InputBag;
use Symfony\Component\HttpFoundation\Response;

/** Until it is known who sends a body, nobody parses it; and an address whose bytes are no UTF-8 leads nowhere. */
final class HoldBody
{
    /** @param  \Closure(Request): Response  $next */
    public function handle(Request $request, \Closure $next): Response
    {
        if (! mb_check_encoding(rawurldecode($request->getRequestUri()), 'UTF-8')) {
            abort(404);
        }
        foreach ($request->query->all() as $name => $value) {
            // No question of ours is asked with a list.
            if (is_array($value) || str_contains((string) $value, "\0")) {
                throw Refused::because('query_text', mb_substr(mb_scrub((string) $name), 0, 60));
            }
        }
        $request->setJson(new InputBag);

        return $next($request);
    }
}
