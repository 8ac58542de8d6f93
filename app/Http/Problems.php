<?php

declare(strict_types=1);

namespace App\Http;

use App\Texts;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Database\LostConnectionException;
use Illuminate\Database\QueryException;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Http\JsonResponse;
use Illuminate\Validation\ValidationException;
use PinYard\Problem;
use PinYard\Refused;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;

/** Every failure leaves as problem details (RFC 9457), in plain words and without a trace. */
final class Problems
{
    public static function register(Exceptions $exceptions): void
    {
        $exceptions->dontReport([Refused::class]);
        $exceptions->render(static fn (\Throwable $e): JsonResponse => self::response($e));
    }

    private static function response(\Throwable $e): JsonResponse
    {
        if ($e instanceof Refused) {
            $stale = $e->problems[0]->code === 'design_stale';

            return self::json($stale ? 409 : 422, 'refused', Texts::problems($e->problems));
        }
        if ($e instanceof ValidationException) {
            $problems = [];
            foreach ($e->errors() as $field => $messages) {
                $problems[] = ['code' => 'invalid', 'field' => $field, 'value' => null, 'params' => (object) [], 'message' => $messages[0]];
            }

            return self::json(422, 'refused', $problems);
        }
        if ($e instanceof AuthenticationException) {
            return self::json(401, 'sign_in');
        }
        if ($e instanceof HttpExceptionInterface) {
            $status = $e->getStatusCode();
            $known = [403 => 'forbidden', 404 => 'not_found', 405 => 'not_found', 413 => 'too_large', 419 => 'page_expired', 429 => 'too_many_tries'];

            return self::json($status, $known[$status] ?? 'failed', [], $e->getHeaders());
        }
        if (self::isDatabaseAway($e)) {
            return self::json(503, 'database_away', [], ['Retry-After' => '5']);
        }

        return self::json(500, 'failed');
    }

    /** 2002, 2006, 2013: cannot connect, gone away, lost during the query; 1053, 1927: shutting down, killed. */
    public static function isDatabaseAway(\Throwable $e): bool
    {
        if ($e instanceof LostConnectionException) {
            return true;
        }
        $driver = $e instanceof QueryException || $e instanceof \PDOException ? (int) ($e->errorInfo[1] ?? $e->getCode()) : 0;

        return in_array($driver, [2002, 2006, 2013, 1053, 1927], true);
    }

    /**
     * @param  list<array<string, mixed>>  $problems
     * @param  array<string, mixed>  $headers
     */
    private static function json(int $status, string $code, array $problems = [], array $headers = []): JsonResponse
    {
        return new JsonResponse([
            'type' => 'about:blank',
            'status' => $status,
            'code' => $code,
            'title' => Texts::of("failure.$code"),
            'problems' => $problems,
        ], $status, ['Content-Type' => 'application/problem+json'] + $headers);
    }

    /** A problem that stops the request with a status of its own. */
    public static function stop(int $status, Problem $problem): JsonResponse
    {
        return self::json($status, 'refused', Texts::problems([$problem]));
    }
}
