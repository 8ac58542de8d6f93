<?php

declare(strict_types=1);

namespace App\Plan;

use App\Documents\MergedInput;
use App\Models\Audience;
use App\Models\Board;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Rights\ShownTo;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Field;
use PinYard\Plan\Question;
use PinYard\Refused;

/** The questions of a programme, with what ties them to layers and boards as these are now. */
final class Questions
{
    /**
     * @param  User|null  $viewer  who is told of boards alone that are shown to them; null: whoever coordinates
     * @return list<array<string, mixed>>
     */
    public static function of(Programme $programme, ?User $viewer = null): array
    {
        $layers = $programme->layers()->get()->keyBy('id');
        // What somebody keeps to themselves answers nobody else.
        $boards = $programme->boards()->where('audience', '!=', Audience::Me)->get()
            ->each(static fn (Board $b) => $b->setRelation('programme', $programme))
            ->filter(static fn (Board $b): bool => $viewer === null || ShownTo::admits($b, $viewer))
            ->keyBy('id');
        $rows = DB::table('questions')->where('programme_id', $programme->id)->orderBy('position')->get();
        $questions = [];
        foreach ($rows as $row) {
            $fields = [];
            foreach ((array) json_decode($row->fields, true) as $tied) {
                $layer = $layers->get($tied['layer']);
                $field = $layer?->design()->field($tied['key']);
                // A field that left the design answers nothing any more.
                if ($field !== null) {
                    $fields[] = [
                        'layer' => $layer->id,
                        'key' => $field->key,
                        'label' => $field->label,
                        'of' => $layer->title,
                    ];
                }
            }
            $wanted = json_decode((string) $row->tile, true);
            $board = is_array($wanted) ? $boards->get($wanted['board']) : null;
            $tile = $board === null ? null : collect($board->tiles)->firstWhere('id', $wanted['tile']);
            if ($tile === null) {
                // A tile that was made for it knows so itself.
                $board = $boards->first(
                    static fn (Board $b): bool => in_array($row->ident, array_column($b->tiles, 'question'), true),
                );
                $tile = $board === null ? null : collect($board->tiles)->firstWhere('question', $row->ident);
            }
            $questions[] = [
                'id' => $row->ident,
                'text' => $row->text,
                'note' => $row->note,
                'fields' => $fields,
                'tile' => $tile === null
                        ? null
                        : [
                            'board' => $board->id,
                            'tile' => $tile['id'],
                            'title' => $tile['title'],
                            'of' => $board->title,
                        ],
                'state' => Question::state($fields !== [], $tile !== null),
            ];
        }

        return $questions;
    }

    /**
     * @param  array<mixed>  $in  the whole list, or `questions` with `was`, as the list was when the change was begun
     * @return list<array<string, mixed>>
     */
    public static function save(Programme $programme, array $in): array
    {
        return DB::transaction(static function () use ($programme, $in): array {
            Programme::query()->lockForUpdate()->findOrFail($programme->id);
            $list = $in;
            if (! array_is_list($in)) {
                $list = $in['questions'] ?? null;
                if (is_array($in['was'] ?? null)) {
                    $now = array_map(self::stored(...), self::of($programme));
                    $list = MergedInput::merge(
                        ['questions' => $list, 'was' => ['questions' => $in['was']]],
                        ['questions' => $now],
                        ['questions'],
                    )['questions'];
                }
            }

            return self::put($programme, $list);
        });
    }

    /**
     * @param  array<string, mixed>  $question  as {@see of()} tells it
     * @return array<string, mixed> what is kept of it
     */
    private static function stored(array $question): array
    {
        return [
            'id' => $question['id'],
            'text' => $question['text'],
            'note' => $question['note'],
            'fields' => array_map(
                static fn (array $f): array => ['layer' => $f['layer'], 'key' => $f['key']],
                $question['fields'],
            ),
            'tile' => $question['tile'] === null
                ? null
                : ['board' => $question['tile']['board'], 'tile' => $question['tile']['tile']],
        ];
    }

    /**
     * @return list<array<string, mixed>>
     *
     * @throws Refused
     */
    private static function put(Programme $programme, mixed $list): array
    {
        $fields = $programme
            ->layers()
            ->get()
            ->mapWithKeys(
                static fn (Layer $l): array => [
                    $l->id => array_map(static fn (Field $f): string => $f->key, $l->design()->valueFields()),
                ],
            )
            ->all();
        $tiles = $programme
            ->boards()
            ->get()
            ->mapWithKeys(static fn (Board $b): array => [$b->id => array_column($b->tiles, 'id')])
            ->all();
        $questions = Question::list($list, $fields, $tiles);
        DB::transaction(static function () use ($programme, $questions): void {
            DB::table('questions')->where('programme_id', $programme->id)->delete();
            DB::table('questions')->insert(
                array_map(
                    static fn (Question $q, int $i): array => [
                        'programme_id' => $programme->id,
                        'position' => $i,
                        'ident' => $q->id,
                        'text' => $q->text,
                        'note' => $q->note,
                        'fields' => json_encode($q->fields, JSON_THROW_ON_ERROR),
                        'tile' => $q->tile === null ? null : json_encode($q->tile, JSON_THROW_ON_ERROR),
                    ],
                    $questions,
                    array_keys($questions),
                ),
            );
        });

        return self::of($programme);
    }
}
