<?php

declare(strict_types=1);

namespace App\OpenApi;

use Symfony\Component\Yaml\Yaml;

/**
 * The shapes of what the routes answer, written in answers.yaml in short and given as JSON Schema (draft 2020-12, as
 * OpenAPI 3.1 has it): objects are closed, and what is not marked with a question mark is always there.
 */
final readonly class AnswerShapes
{
    private const TYPES = ['string', 'integer', 'number', 'boolean', 'null', 'object', 'array'];

    /**
     * @param  array<string, array<string, mixed>>  $schemas  by name
     * @param  array<string, array<string, mixed>|'nothing'|'file'>  $answers  by "METHOD /path"
     */
    private function __construct(public array $schemas, public array $answers)
    {
    }

    public static function read(): self
    {
        $document = Yaml::parseFile(__DIR__.'/answers.yaml');

        return new self(
            array_map(self::schema(...), $document['shapes']),
            array_map(
                static fn (string $a): array|string => in_array($a, ['nothing', 'file'], true) ? $a : self::schema($a),
                $document['answers'],
            ),
        );
    }

    /** As a description of its own, of the shapes alone: what types for other languages are made from. */
    public function document(): string
    {
        $text = json_encode([
            'openapi' => '3.1.0',
            'info' => ['title' => 'Pin Yard', 'version' => '1'],
            'paths' => (object) [],
            'components' => ['schemas' => $this->schemas],
        ], JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR);

        // The schema that anything fits is an object; PHP writes an empty list.
        return str_replace(':[]', ':{}', $text);
    }

    /** @return array<string, mixed> */
    private static function schema(mixed $short): array
    {
        return match (true) {
            is_string($short) => self::anyOf(explode('|', $short)),
            array_is_list((array) $short) => ['type' => 'string', 'enum' => $short],
            isset($short['$json']) => $short['$json'] + (isset($short['$ts']) ? ['x-typescript' => $short['$ts']] : []),
            isset($short['oneOf']) => ['oneOf' => array_map(self::schema(...), $short['oneOf'])],
            isset($short['anyOf']) => ['anyOf' => array_map(self::schema(...), $short['anyOf'])],
            default => self::object($short),
        };
    }

    /**
     * @param  array<string, mixed>  $keys
     * @return array<string, mixed>
     */
    private static function object(array $keys): array
    {
        $schema = ['type' => 'object', 'properties' => [], 'required' => [], 'additionalProperties' => false];
        foreach ($keys as $key => $short) {
            $name = rtrim($key, '?');
            $schema['properties'][$name] = self::schema($short);
            if ($name === $key) {
                $schema['required'][] = $name;
            }
        }

        return $schema['required'] === [] ? array_diff_key($schema, ['required' => 1]) : $schema;
    }

    /**
     * @param  list<string>  $words
     * @return array<string, mixed>
     */
    private static function anyOf(array $words): array
    {
        $all = array_map(self::word(...), $words);

        return count($all) === 1 ? $all[0] : ['anyOf' => $all];
    }

    /** @return array<string, mixed> */
    private static function word(string $word): array
    {
        if (str_ends_with($word, '[]')) {
            return ['type' => 'array', 'items' => self::word(substr($word, 0, -2))];
        }
        if (str_ends_with($word, '{}')) {
            return ['type' => 'object', 'additionalProperties' => self::word(substr($word, 0, -2))];
        }
        if (preg_match('/^(\w+)\*(\d)$/D', $word, $of) === 1) {
            $one = self::word($of[1]);
            $count = (int) $of[2];

            return [
                'type' => 'array',
                'prefixItems' => array_fill(0, $count, $one),
                'minItems' => $count,
                'maxItems' => $count,
            ];
        }

        return match (true) {
            $word === 'any' => [],
            in_array($word, self::TYPES, true) => ['type' => $word],
            default => ['$ref' => "#/components/schemas/$word"],
        };
    }
}
