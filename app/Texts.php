<?php

declare(strict_types=1);

namespace App;

use PinYard\Problem;

/** The text catalogue (resources/texts), shared with the screens. Sentences are ICU messages. */
final class Texts
{
    /** @var array<string, array<string, string>> */
    private static array $catalogues = [];

    private static string $spoken = Language::FIRST;

    /** From now on, in this process; every request says its own ({@see Http\Middleware\SpeakLanguage}). */
    public static function speak(string $language): void
    {
        self::$spoken = Language::known($language) ?? Language::FIRST;
    }

    /** What the state of every kept answer with sentences in it has to name. */
    public static function spoken(): string
    {
        return self::$spoken;
    }

    /**
     * In another language for a while: what is told to somebody else than whoever asks.
     *
     * @template T
     *
     * @param  \Closure(): T  $work
     * @return T
     */
    public static function in(?string $language, \Closure $work): mixed
    {
        $before = self::$spoken;
        self::speak($language ?? Language::FIRST);
        try {
            return $work();
        } finally {
            self::$spoken = $before;
        }
    }

    /**
     * A number that was written with a decimal point, as it is written in the language spoken.
     *
     * @param  string  $plain  such as `-12.5`
     */
    public static function number(string $plain): string
    {
        return self::$spoken === 'de' ? str_replace('.', ',', $plain) : $plain;
    }

    /** @param  array<string, scalar|null>  $params */
    public static function of(string $key, array $params = []): string
    {
        $language = self::$spoken;
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
     * Problems that were kept as JSON, as the API tells them: what was an object is one again, also an empty one, and
     * whoever reads them may read another language than whoever they were kept for.
     *
     * @param  array<mixed>|null  $kept
     * @return list<array<string, mixed>>|null
     */
    public static function keptProblems(?array $kept): ?array
    {
        return $kept === null
            ? null
            : array_map(
                static fn (array $p): array => [
                    'params' => (object) ($p['params'] ?? []),
                    'message' => self::again($p),
                ] + $p,
                array_values($kept),
            );
    }

    /** One problem that was kept as JSON, or, by an older release, as its sentence. */
    public static function keptProblem(?string $kept): ?string
    {
        $problem = $kept === null ? null : json_decode($kept, true);

        return is_array($problem) ? self::again($problem) : $kept;
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
                'message' => self::problem($p->code, $p->value, $p->params),
            ],
            $problems,
        );
    }

    /** @param  array<array-key, mixed>  $params */
    private static function problem(string $code, mixed $value, array $params): string
    {
        return self::of("problem.$code", ['value' => is_scalar($value) ? $value : '', ...$params]);
    }

    /**
     * What a problem that was kept says to whoever asks now.
     *
     * @param  array<array-key, mixed>  $kept
     */
    public static function again(array $kept): string
    {
        $code = (string) ($kept['code'] ?? '');
        $said = self::problem($code, $kept['value'] ?? null, (array) ($kept['params'] ?? []));

        // What an older release kept may be a problem that none has any more.
        return $said === "problem.$code" ? (string) ($kept['message'] ?? '') : $said;
    }
}
