<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Alerts\Notices;
use App\Http\JsonText;
use App\Http\Problems;
use App\Models\Layer;
use App\Models\Member;
use App\People\SignedIn;
use App\Records\RecordQuestions;
use App\Rights\LayerRights;
use App\Sync\News;
use App\Sync\SyncRound;
use App\Sync\UnchangedLayers;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use OpenApi\Attributes as OA;
use PinYard\Geo\Box;
use PinYard\Refused;
use Symfony\Component\HttpFoundation\InputBag;

final class SyncController
{
    #[
        OA\Post(
            path: '/api/v1/sync',
            summary: 'One sync round: empties the outbox, fetches news',
            description: 'Safe to send again: each operation is answered exactly once. An answer is given only '
                .'after it is written.',
            tags: ['Field app'],
            requestBody: new OA\RequestBody(
                required: true,
                content: new OA\JsonContent(ref: '#/components/schemas/SyncRound'),
            ),
            responses: [
                new OA\Response(
                    response: 200,
                    description: 'An outcome for each operation, and news for each layer asked for',
                ),
            ],
        ),
    ]
    public function __invoke(Request $request): JsonResponse
    {
        self::unpack($request);
        $person = $request->json('person');
        if (is_int($person) && $person !== SignedIn::of($request)->id) {
            return Problems::otherPerson();
        }
        $operations = $request->json('operations', []);
        $cursors = $request->json('cursors', []);
        if (! is_array($operations) || ! array_is_list($operations) || ! is_array($cursors)) {
            throw Refused::because('must_be_list', 'operations');
        }
        if (count($operations) > SyncRound::MOST_OPERATIONS) {
            throw Refused::because('too_many', 'operations', count($operations), [
                'count' => count($operations),
                'most' => SyncRound::MOST_OPERATIONS,
            ]);
        }
        $outcomes = SyncRound::for(SignedIn::of($request), $request->json('device'), $request->json('sent_at'))->take(
            $operations,
        );
        $answered = RecordQuestions::answer(SignedIn::of($request), $request->json('answers'));
        $read = Notices::read(SignedIn::of($request), $request->json('read_notices'));
        $this->note($request, $cursors);
        [$news, $lost] = $this->news($request, $cursors);

        return new JsonResponse([
            'server_time' => now()->format('Y-m-d\TH:i:s.v\Z'),
            'outcomes' => $outcomes,
            'news' => (object) $news,
            'lost' => $lost,
            'answered' => $answered,
            'asked' => RecordQuestions::waiting(SignedIn::of($request)),
            'read_notices' => $read,
            'notices' => Notices::onPhone(SignedIn::of($request)),
        ]);
    }

    /** A phone may send its round compressed (RFC 9110, section 8.4: gzip). */
    private static function unpack(Request $request): void
    {
        if (strtolower((string) $request->header('Content-Encoding')) !== 'gzip') {
            return;
        }
        $plain = @gzdecode($request->getContent(), JsonText::MOST_BYTES);
        if ($plain === false) {
            throw Refused::because('sync_packed', null, null, ['most' => JsonText::MOST_BYTES >> 20]);
        }
        $request->setJson(new InputBag(JsonText::read($plain)));
    }

    /**
     * @param  array<mixed>  $cursors  change number that the phone has, by layer
     * @return array{array<int, array<string, mixed>>, list<int>} news by layer; layers that are no longer this person's
     */
    private function news(Request $request, array $cursors): array
    {
        $news = [];
        $lost = [];
        [$areas, $filling] = [$request->json('areas'), $request->json('filling')];
        $unchanged = UnchangedLayers::of(SignedIn::of($request), $cursors);
        $others = array_diff(array_map(intval(...), array_keys($cursors)), array_keys($unchanged));
        $layers = $others === []
            ? new Collection
            : Layer::query()->with('programme')->whereIn('id', $others)->get()->keyBy('id');
        foreach ($cursors as $id => $since) {
            $layer = $layers[(int) $id] ?? null;
            if (isset($unchanged[(int) $id])) {
                $news[(int) $id] = $unchanged[(int) $id];
            } elseif ($layer === null || ! LayerRights::of(SignedIn::of($request), $layer)->maySee()) {
                $lost[] = (int) $id;
            } else {
                $news[(int) $id] = News::of(
                    SignedIn::of($request),
                    $layer,
                    is_int($since) ? max(0, $since) : 0,
                    self::area($areas, $id),
                    is_array($filling) && in_array((int) $id, $filling, true),
                );
            }
        }

        return [$news, $lost];
    }

    /** What a phone wants of a layer: nothing said, or nothing sound, is the whole layer. */
    private static function area(mixed $areas, int|string $layer): ?Box
    {
        $sides = is_array($areas) && is_array($areas[$layer] ?? null) ? array_values($areas[$layer]) : [];
        try {
            return $sides === [] ? null : Box::of($sides[0], $sides[1] ?? null, $sides[2] ?? null, $sides[3] ?? null);
        } catch (Refused) {
            return null;
        }
    }

    /** @param  array<mixed>  $cursors */
    private function note(Request $request, array $cursors): void
    {
        $waiting = $request->json('waiting');
        Member::query()
            ->where('user_id', SignedIn::of($request)->id)
            ->whereIn(
                'programme_id',
                Layer::query()->whereIn('id', array_map('intval', array_keys($cursors)))->select('programme_id'),
            )
            ->update([
                'last_heard_at' => now(),
                'waiting' => is_int($waiting) && $waiting >= 0 ? min($waiting, 1_000_000) : 0,
            ]);
    }
}
