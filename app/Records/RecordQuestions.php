<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\StoredRow;
use App\Models\Layer;
use App\Models\RecordQuestion;
use App\Models\User;
use App\Rights\LayerRights;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Carbon;
use PinYard\Record\RecordId;
use PinYard\Refused;
use stdClass;

/** Questions about records: asked at the desk, answered on the phone of whoever made the record. */
final class RecordQuestions
{
    private const LONGEST_ANSWER = 1_000;

    /** @throws Refused when nothing is asked, or nobody can be asked */
    public static function ask(User $by, Layer $layer, stdClass $record, mixed $text): RecordQuestion
    {
        $text = is_string($text) ? trim($text) : '';
        if ($text === '' || mb_strlen($text) > 500 || ! mb_check_encoding($text, 'UTF-8')) {
            throw Refused::because('ask_text', 'text', null, ['most' => 500]);
        }
        $author = $record->created_by === null ? null : User::query()->whereKey($record->created_by)->first();
        if ($author === null || ! LayerRights::of($author, $layer)->maySee()) {
            throw Refused::because('ask_nobody', 'record');
        }

        return RecordQuestion::query()->create([
            'layer_id' => $layer->id,
            'record_id' => $record->id,
            'to_user' => $author->id,
            'asked_by' => $by->id,
            'text' => $text,
            'asked_at' => now(),
        ]);
    }

    /**
     * Takes answers from a phone; the first to a question counts, however often it comes. What makes no sense is left
     * out.
     *
     * @return list<int> the questions that are answered now
     */
    public static function answer(User $by, mixed $answers): array
    {
        $done = [];
        foreach (is_array($answers) ? array_slice($answers, 0, 200) : [] as $answer) {
            $id = is_array($answer) ? $answer['ask'] ?? null : null;
            $text =
                is_array($answer) && is_string($answer['text'] ?? null)
                    ? mb_substr(trim(mb_scrub($answer['text'])), 0, self::LONGEST_ANSWER)
                    : '';
            if (! is_int($id) || $text === '') {
                continue;
            }
            RecordQuestion::query()
                ->where('to_user', $by->id)
                ->where('id', $id)
                ->whereNull('answered_at')
                ->update(['answer' => $text, 'answered_at' => self::when($answer['at'] ?? null)]);
            // Also what was closed meanwhile, or is not theirs: the phone need not keep it.
            $done[] = $id;
        }

        return $done;
    }

    /** @return list<array<string, mixed>> what the desk asks this person */
    public static function waiting(User $user): array
    {
        $out = [];
        /** @var Collection<int, RecordQuestion> $found */
        $found = RecordQuestion::waitingFor($user)->with('layer.programme')->orderBy('id')->limit(200)->get();
        foreach ($found as $asked) {
            if (! $asked->layer->trashed() && LayerRights::of($user, $asked->layer)->maySee()) {
                $out[] = self::present($asked, $user);
            }
        }

        return $out;
    }

    /** @return array<string, mixed> */
    public static function present(RecordQuestion $asked, User $viewer): array
    {
        $row = VisibleRecords::for($viewer, $asked->layer)->withDeleted()->where('id', $asked->record_id)->first();
        $people = User::query()->whereIn('id', array_filter([$asked->asked_by, $asked->to_user]))->pluck('name', 'id');

        return [
            'id' => $asked->id,
            'layer' => $asked->layer_id,
            'record' => RecordId::fromBytes($asked->record_id)->text,
            'name' => $row === null ? null : StoredRow::name($asked->layer->design(), $row),
            'text' => $asked->text,
            'by' => $people[$asked->asked_by] ?? null,
            'to' => $people[$asked->to_user] ?? null,
            'at' => $asked->asked_at->toIso8601ZuluString(),
            'answer' => $asked->answer,
            'answered_at' => $asked->answered_at?->toIso8601ZuluString(),
            'closed_at' => $asked->closed_at?->toIso8601ZuluString(),
        ];
    }

    private static function when(mixed $at): Carbon
    {
        $told =
            is_string($at) && preg_match('/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d+)?Z$/D', $at) === 1
                ? rescue(static fn (): Carbon => Carbon::parse($at), null, false)
                : null;

        // A phone's clock may be wrong; an answer is not from before the question could be read, nor from the future.
        return $told instanceof Carbon && $told->isPast() && $told->year > 2000 ? $told : Carbon::now();
    }
}
