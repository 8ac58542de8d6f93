<?php

declare(strict_types=1);

namespace App;

use PinYard\Problem;

/** The text catalogue (resources/texts), shared with the screens. Sentences are ICU messages. */
final class Texts
{
    /** @var array<string, array<string, string>> */
    private static array $catalogues = [];

    /** @param  array<string, scalar|null>  $params */
    public static function of(string $key, array $params = [], string $language = 'en'): string
    {
        self::$catalogues[$language] ??= (array) json_decode(
            (string) file_get_contents(resource_path("texts/$language.json")),
            true,
        );
        $pattern = self::$catalogues[$language][$key] ?? null;
        if ($pattern === null) {
            return $key;
        }

        return \MessageFormatter::formatMessage($language, $pattern, $params) ?: $pattern;
    }

    /**
     * Problems that were kept as JSON, as the API tells them: what was an object is one again, also an empty one.
     *
     * @param  array<mixed>|null  $kept
     * @return list<array<string, mixed>>|null
     */
    public static function keptProblems(?array $kept): ?array
    {
        return $kept === null
            ? null
            : array_map(
                static fn (array $p): array => ['params' => (object) ($p['params'] ?? [])] + $p,
                array_values($kept),
            );
    }

    /**
     * Problems as the API tells them.
     *
     * @param  list<Problem>  $problems
     * @return list<array{code: string, field: string|null, value: mixed, params: object, message: string}>
     */
    public static function problems(array $problems): array
    {
        return array_map(
            static fn (Problem $p): array => [
                'code' => $p->code,
                'field' => $p->field,
                'value' => $p->value,
                'params' => (object) $p->params,
                'message' => self::of("problem.$p->code", [
                    'value' => is_scalar($p->value) ? $p->value : '',
                    ...$p->params,
                ]),
            ],
            $problems,
        );
    }
}
