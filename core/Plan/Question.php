<?php

declare(strict_types=1);

namespace PinYard\Plan;

use PinYard\Problem;
use PinYard\Refused;

/** Something that a programme must answer, tied to the fields that can and to the board tile that does. */
final readonly class Question
{
    public const MOST = 100;

    /**
     * @param  string  $id  its own, by which it is known again when the list is changed by two
     * @param  list<array{layer: int, key: string}>  $fields
     * @param  array{board: int, tile: string}|null  $tile
     */
    private function __construct(
        public string $id,
        public string $text,
        public string $note,
        public array $fields,
        public ?array $tile,
    ) {
    }

    /**
     * Reads the whole list of a programme's questions, in their order.
     *
     * @param  array<int, list<string>>  $fields  keys by layer
     * @param  array<int, list<string>>  $tiles  tile ids by board
     * @return list<self>
     *
     * @throws Refused naming every place that is off
     */
    public static function list(mixed $in, array $fields, array $tiles): array
    {
        if (! is_array($in) || ! array_is_list($in)) {
            throw Refused::because('must_be_list', 'questions');
        }
        if (count($in) > self::MOST) {
            throw Refused::because('too_many', 'questions', count($in), ['count' => count($in), 'most' => self::MOST]);
        }
        $questions = [];
        $problems = [];
        foreach ($in as $i => $one) {
            try {
                $questions[] = self::read($one, "questions/$i", $fields, $tiles);
            } catch (Refused $e) {
                array_push($problems, ...$e->problems);
            }
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }
        if (count(array_unique(array_map(static fn (self $q): string => $q->id, $questions))) !== count($questions)) {
            throw Refused::because('question_doubled', 'questions');
        }

        return $questions;
    }

    /**
     * @param  array<int, list<string>>  $fields
     * @param  array<int, list<string>>  $tiles
     */
    private static function read(mixed $in, string $at, array $fields, array $tiles): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', $at);
        }
        $problems = [];
        $text = is_string($in['text'] ?? null) ? trim($in['text']) : '';
        $note = is_string($in['note'] ?? null) ? trim($in['note']) : '';
        foreach (['text' => [$text, 200], 'note' => [$note, 500]] as $part => [$value, $most]) {
            if (mb_strlen($value) > $most) {
                $problems[] = new Problem('too_long', "$at/$part", mb_substr($value, 0, 40).'…', [
                    'length' => mb_strlen($value),
                    'most' => $most,
                ]);
            }
        }
        if ($text === '') {
            $problems[] = new Problem('question_empty', "$at/text");
        }
        $tied = [];
        foreach (is_array($in['fields'] ?? null) ? $in['fields'] : [] as $field) {
            [$layer, $key] = is_array($field) ? [$field['layer'] ?? null, $field['key'] ?? null] : [null, null];
            if (! is_int($layer) || ! is_string($key) || ! in_array($key, $fields[$layer] ?? [], true)) {
                $problems[] = new Problem('question_field', "$at/fields", is_string($key) ? $key : null, [
                    'key' => is_string($key) ? $key : '',
                ]);
            } elseif (! in_array(['layer' => $layer, 'key' => $key], $tied, true)) {
                $tied[] = ['layer' => $layer, 'key' => $key];
            }
        }
        $tile = null;
        if (isset($in['tile'])) {
            [$board, $id] = is_array($in['tile'])
                ? [$in['tile']['board'] ?? null, $in['tile']['tile'] ?? null]
                : [null, null];
            if (! is_int($board) || ! is_string($id) || ! in_array($id, $tiles[$board] ?? [], true)) {
                $problems[] = new Problem('question_tile', "$at/tile");
            } else {
                $tile = ['board' => $board, 'tile' => $id];
            }
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }

        $id = $in['id'] ?? null;
        $own = is_string($id) && preg_match('/^[A-Za-z0-9_-]{1,40}$/D', $id) === 1 ? $id : bin2hex(random_bytes(8));

        return new self($own, $text, $note, $tied, $tile);
    }

    /** @return 'open'|'no_tile'|'answered' */
    public static function state(bool $hasField, bool $hasTile): string
    {
        return ! $hasField ? 'open' : ($hasTile ? 'answered' : 'no_tile');
    }
}
