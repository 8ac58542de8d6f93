<?php

declare(strict_types=1);

namespace App\Http;

use App\DatabaseFailure;
use App\Texts;
use Illuminate\Auth\AuthenticationException;
use Illuminate\Database\QueryException;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Http\JsonResponse;
use Illuminate\Validation\ValidationException;
use PinYard\Overtaken;
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
            return self::json($e instanceof Overtaken ? 409 : 422, 'refused', Texts::problems($e->problems));
        }
        if ($e instanceof ValidationException) {
            $problems = [];
            foreach ($e->errors() as $field => $messages) {
                $problems[] = [
                    'code' => 'invalid',
                    'field' => $field,
                    'value' => null,
                    'params' => (object) [],
                    'message' => $messages[0],
                ];
            }

            return self::json(422, 'refused', $problems);
        }
        if ($e instanceof AuthenticationException) {
            return self::json(401, 'sign_in');
        }
        if ($e instanceof HttpExceptionInterface) {
            $status = $e->getStatusCode();
            $known = [
                403 => 'forbidden',
                404 => 'not_found',
                405 => 'not_found',
                413 => 'too_large',
                419 => 'page_expired',
                429 => 'too_many_tries',
            ];

            return self::json($status, $known[$status] ?? 'failed', [], $e->getHeaders());
        }
        if (DatabaseFailure::isAway($e)) {
            return self::json(503, 'database_away', [], ['Retry-After' => '5']);
        }

        if (self::isDiskFull($e)) {
            return self::json(507, 'disk_full', [], ['Retry-After' => '300']);
        }

        return self::json(500, 'failed');
    }

    /** 1021, 1114, 3: no room for a table or a file of it; 28 is the system's own number for that. */
    private static function isDiskFull(\Throwable $e): bool
    {
        $driver = $e instanceof QueryException || $e instanceof \PDOException ? (int) ($e->errorInfo[1] ?? 0) : 0;

        return in_array($driver, [1021, 1114, 3], true) ||
            str_contains($e->getMessage(), 'No space left on device') ||
            str_contains($e->getMessage(), 'errno=28') ||
            str_contains($e->getMessage(), 'Read-only file system');
    }

    /**
     * @param  list<array<string, mixed>>  $problems
     * @param  array<string, mixed>  $headers
     */
    private static function json(int $status, string $code, array $problems = [], array $headers = []): JsonResponse
    {
        $answer = new JsonResponse(null, $status, ['Content-Type' => 'application/problem+json'] + $headers);
        // A value that is told again may be what no JSON can hold.
        $answer->setEncodingOptions(
            JsonResponse::DEFAULT_ENCODING_OPTIONS | JSON_INVALID_UTF8_SUBSTITUTE | JSON_PARTIAL_OUTPUT_ON_ERROR,
        );

        return $answer->setData([
            'type' => 'about:blank',
            'status' => $status,
            'code' => $code,
            'title' => Texts::of("failure.$code"),
            'problems' => $problems,
        ]);
    }

    /** What a phone hears in whose browser somebody else is signed in. */
    public static function otherPerson(): JsonResponse
    {
        return self::json(409, 'other_person');
    }

    /** A problem that stops the request with a status of its own. */
    public static function stop(int $status, Problem $problem): JsonResponse
    {
        return self::json($status, 'refused', Texts::problems([$problem]));
    }
}
