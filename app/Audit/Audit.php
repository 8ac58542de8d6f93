<?php

declare(strict_types=1);

namespace App\Audit;

use App\Models\Programme;
use App\Models\User;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * What was done about rights, links, files and sign-ins: who, when, what. It is only ever added to; a trigger of the
 * database refuses anything else.
 */
final class Audit
{
    private const PAGE = 50;

    /**
     * Notes what whoever is signed in has just done.
     *
     * @param  int|null  $programme  null: of the person, told in each programme that they belong to
     * @param  array<string, string|int|null>  $about  words for the sentence `audit.<kind>`
     */
    public static function note(?int $programme, string $kind, array $about, ?User $by = null): void
    {
        $by ??= Auth::user() instanceof User ? Auth::user() : null;
        DB::table('audit')->insert([
            'programme_id' => $programme,
            'user_id' => $by?->id,
            'who' => mb_substr($by->name ?? '', 0, 120),
            'kind' => $kind,
            'about' => json_encode((object) $about, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE),
            'at' => now()->format('Y-m-d H:i:s.v'),
        ]);
    }

    /**
     * Newest first.
     *
     * @param  int|null  $before  number of the entry that the page before ended with
     * @return array{entries: list<array{id: int, at: string, who: string, kind: string, about: object}>, more: bool}
     */
    public static function of(Programme $programme, ?int $before): array
    {
        $rows = DB::table('audit')
            ->where(static fn ($any) => $any->where('programme_id', $programme->id)->orWhere(
                static fn ($of) => $of->whereNull('programme_id')
                    ->whereIn('user_id', $programme->members()->select('user_id')),
            ))
            ->when($before !== null, static fn ($q) => $q->where('id', '<', $before))
            ->orderByDesc('id')
            ->limit(self::PAGE + 1)
            ->get();

        return [
            'entries' => array_values($rows->take(self::PAGE)->map(static fn (stdClass $r): array => [
                'id' => $r->id,
                'at' => str_replace(' ', 'T', (string) $r->at).'Z',
                'who' => $r->who,
                'kind' => $r->kind,
                'about' => (object) json_decode((string) $r->about, true),
            ])->all()),
            'more' => $rows->count() > self::PAGE,
        ];
    }
}
