<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Plan\Questions;
use PinYard\Board\Proposal;

/** For each question of a programme the tiles that could answer it, as its fields allow. */
final class QuestionTiles
{
    private const LONGEST_TITLE = 120;

    /** @return list<array<string, mixed>> */
    public static function of(Programme $programme, User $viewer): array
    {
        $layers = $programme->layers()->get()->keyBy('id');
        $out = [];
        foreach (Questions::of($programme, $viewer) as $question) {
            $keys = [];
            foreach ($question['fields'] as $tied) {
                $keys[$tied['layer']][] = $tied['key'];
            }
            $tiles = [];
            foreach ($keys as $number => $fields) {
                $layer = $layers->get($number);
                if ($layer instanceof Layer) {
                    array_push($tiles, ...Proposal::of($layer->id, $layer->design(), $fields));
                }
            }
            $out[] = [
                'id' => $question['id'],
                'text' => $question['text'],
                'state' => $question['state'],
                'tile' => $question['tile'],
                'proposals' => array_map(
                    static fn (array $tile): array => [
                        'title' => mb_substr($question['text'], 0, self::LONGEST_TITLE),
                        'question' => $question['id'],
                    ] + $tile,
                    $tiles,
                ),
            ];
        }

        return $out;
    }
}
