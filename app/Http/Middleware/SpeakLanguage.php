<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Language;
use App\Texts;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Sentences of an answer are in the language of whoever asks. */
final class SpeakLanguage
{
    public function handle(Request $request, Closure $next): Response
    {
        Texts::speak(Language::askedFor($request));
        $response = $next($request);
        // Pictures and files are in none.
        if (str_contains((string) $response->headers->get('Content-Type'), 'json')) {
            $response->headers->set('Content-Language', Texts::spoken());
        }

        return $response;
    }
}
