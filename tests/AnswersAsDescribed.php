<?php

declare(strict_types=1);

namespace Tests;

use App\OpenApi\AnswerShapes;
use Illuminate\Foundation\Http\Events\RequestHandled;
use Illuminate\Routing\Route;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Validator;
use PHPUnit\Framework\Assert;

/** Holds the answers that tests get against the shapes of the API's description (JSON Schema, draft 2020-12). */
final class AnswersAsDescribed
{
    private const ID = 'https://pinyard.test/answers.json';

    private const FAILURE = '#/components/schemas/Failure';

    private static ?Validator $validator = null;

    /** @var array<string, true> answers that were held against their shape before, letter for letter */
    private static array $held = [];

    /** @var array<string, int|'nothing'|'file'> place of the shape, by "METHOD /path" */
    private static array $places = [];

    public static function check(RequestHandled $handled): void
    {
        $route = $handled->request->route();
        $status = $handled->response->getStatusCode();
        if ($handled->response->headers->get('Content-Type') === 'application/problem+json') {
            // HEAD has no body.
            if ($handled->request->method() !== 'HEAD') {
                self::hold('a failure', self::FAILURE, (string) $handled->response->getContent());
            }

            return;
        }
        if (! $route instanceof Route || $status < 200 || $status > 299) {
            return;
        }
        $name = $handled->request->method().' /'.ltrim($route->uri(), '/');
        $isJson = $handled->response->headers->get('Content-Type') === 'application/json';
        $text = (string) $handled->response->getContent();
        self::prepare();
        $place = self::$places[$name] ?? null;
        if ($place === null || $place === 'file') {
            return;
        }
        if ($place === 'nothing') {
            Assert::assertTrue($text === '' || ! $isJson, "$name answers, and its description says that it does not");

            return;
        }
        self::hold($name, "#/answers/$place", $text);
    }

    private static function hold(string $name, string $place, string $text): void
    {
        $key = md5("$place $text", true);
        if (isset(self::$held[$key])) {
            return;
        }
        self::prepare();
        $error = self::$validator?->validate(json_decode($text), self::ID.$place)->error();
        Assert::assertNull($error, $error === null ? '' : "$name is not as described: ".json_encode(
            (new ErrorFormatter)->formatFlat($error, static fn ($e): string => implode('/', $e->data()->fullPath()).': '
                .(new ErrorFormatter)->formatErrorMessage($e)),
            JSON_UNESCAPED_SLASHES,
        ));
        self::$held[$key] = true;
    }

    private static function prepare(): void
    {
        if (self::$validator !== null) {
            return;
        }
        $shapes = AnswerShapes::read();
        $answers = [];
        foreach ($shapes->answers as $name => $answer) {
            self::$places[$name] = is_string($answer) ? $answer : count($answers);
            if (! is_string($answer)) {
                $answers[] = $answer;
            }
        }
        $document = json_decode(str_replace(
            ':[]',
            ':{}',
            (string) json_encode(['components' => ['schemas' => $shapes->schemas], 'answers' => $answers]),
        ));
        self::$validator = new Validator;
        self::$validator->resolver()?->registerRaw($document, self::ID);
    }
}
