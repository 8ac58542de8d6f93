<?php

declare(strict_types=1);

use App\Http\Polls\ShortWay;
use App\Models\Audience;
use App\Models\Board;
use App\Models\Map;
use App\Models\Role;
use App\Models\User;
use App\Texts;
use Illuminate\Auth\SessionGuard;
use Illuminate\Cookie\CookieValuePrefix;
use Illuminate\Encryption\Encrypter;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/* The short way says "nothing has changed" just where the long way would, and never anything else. */

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $this->sync($this->head, [$this->add($this->nests)]);
    $this->map = $this->mapOf($this->nests, [], Audience::Link);
    $on = ['layer' => $this->nests->id, 'width' => 3, 'height' => 2];
    // With all that a board can read beside its layers: maps, crews, outings.
    $this->board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B', 'audience' => 'link', 'tiles' => [
            ['id' => 'n', 'kind' => 'number', 'title' => 'N'] + $on,
            ['id' => 'm', 'kind' => 'map', 'title' => 'M', 'map' => $this->map->id, 'width' => 3, 'height' => 2],
            ['id' => 'c', 'kind' => 'crews', 'title' => 'C', 'width' => 3, 'height' => 2],
            ['id' => 'o', 'kind' => 'outings', 'title' => 'O', 'width' => 3, 'height' => 2],
        ],
    ])->assertCreated()->json();
    $this->addresses = [
        'me' => '/api/v1/me',
        'desk' => "/api/v1/boards/{$this->board['id']}/answers",
        'board' => '/api/v1/open'.$this->linkOf($this->board),
        'map' => "/api/v1/open/maps/{$this->map->link_token}",
    ];
    $this->config = ['session' => ['driver' => 'database'] + config('session')] + config()->all();
    /** What the browser of somebody who is signed in has; the session is as old as said, in seconds. */
    $this->cookies = function (User $person, int $age = 5, array $data = []): array {
        $id = Str::random(40);
        DB::table('sessions')->insert([
            'id' => $id,
            'user_id' => $person->id,
            'payload' => base64_encode(serialize($data + [
                '_token' => Str::random(40),
                'login_web_'.sha1(SessionGuard::class) => $person->id,
            ])),
            'last_activity' => time() - $age,
        ]);
        $this->session = $id;

        return [config('session.cookie') => ($this->sealed)($id)];
    };
    $this->sealed = static function (string $id, ?string $key = null): string {
        $key ??= (string) base64_decode(substr((string) config('app.key'), 7), true);

        return (new Encrypter($key, 'AES-256-CBC'))
            ->encryptString(CookieValuePrefix::create((string) config('session.cookie'), $key).$id);
    };
    /** The tag of what the long way answers now. */
    $this->tag = fn (string $what, ?User $person = null, string $language = 'en'): string => (string) $this
        ->actingAs(($person ?? $this->head)->refresh())
        ->getJson($this->addresses[$what], ['Pin-Yard-Language' => $language])
        ->assertOk()
        ->headers->get('ETag');
    $this->server = fn (string $what, string $tag, array $more = []): array => $more + [
        'REQUEST_METHOD' => 'GET',
        'REQUEST_URI' => $this->addresses[$what],
        'HTTP_IF_NONE_MATCH' => $tag,
        'HTTP_PIN_YARD_LANGUAGE' => 'en',
    ];
    $this->short = fn (string $what, string $tag, array $cookies = [], array $more = []): ?string => ShortWay::tag(
        ($this->server)($what, $tag, $more),
        $cookies,
        $this->config,
        storage_path(),
    );
});

it('says it where the long way does, until something changes', function (string $what): void {
    $cookies = ($this->cookies)($this->head);
    $tag = ($this->tag)($what);
    $bare = trim($tag, '"');
    expect(($this->short)($what, $tag, $cookies))->toBe($bare)
        // As nginx makes it, and among others.
        ->and(($this->short)($what, "W/$tag", $cookies))->toBe($bare)
        ->and(($this->short)($what, "\"another\", W/$tag", $cookies))->toBe($bare);
    $this->getJson($this->addresses[$what], ['If-None-Match' => $tag])->assertStatus(304);

    $this->sync($this->head, [$this->add($this->nests)]);
    expect(($this->short)($what, $tag, $cookies))->toBeNull();
    $now = ($this->tag)($what);
    expect($now)->not->toBe($tag)
        ->and(($this->short)($what, $tag, $cookies))->toBeNull()
        ->and(($this->short)($what, $now, $cookies))->toBe(trim($now, '"'));
})->with(['desk', 'board', 'map']);

it('knows whose name, address and roles have changed', function (string $table, array $change): void {
    $cookies = ($this->cookies)($this->head);
    $tag = ($this->tag)('me');
    expect(($this->short)('me', $tag, $cookies))->toBe(trim($tag, '"'));
    $this->getJson('/api/v1/me', ['If-None-Match' => $tag])->assertStatus(304);
    DB::table($table)->where($table === 'users' ? 'id' : 'user_id', $this->head->id)->update($change);
    expect(($this->short)('me', $tag, $cookies))->toBeNull();
    $this->actingAs($this->head->refresh())->getJson('/api/v1/me', ['If-None-Match' => $tag])->assertOk();
})->with([
    ['users', ['name' => 'Zoë']],
    ['users', ['email' => 'elsewhere-'.bin2hex(random_bytes(6)).'@example.test']],
    ['users', ['second_demanded' => true]],
    ['users', ['language' => 'de']],
    ['members', ['role' => 'guest']],
]);

it('leaves the framework as it was', function (): void {
    $app = app();
    $tag = ($this->tag)('desk');
    Texts::in('de', function () use ($tag): void {
        expect(($this->short)('desk', $tag, ($this->cookies)($this->head)))->not->toBeNull()
            ->and(Texts::spoken())->toBe('de');
    });
    expect(app())->toBe($app)
        ->and(DB::connection()->getDatabaseName())->toBe(config('database.connections.mariadb.database'))
        ->and(User::query()->whereKey($this->head->id)->exists())->toBeTrue();
});

it('goes the long way where a request is not just as expected', function (string $what, array $more): void {
    $tag = ($this->tag)($what);
    foreach ($more as $name => $value) {
        $more[$name] = str_replace('{at}', $this->addresses[$what], (string) $value);
    }
    expect(($this->short)($what, $tag, ($this->cookies)($this->head), $more))->toBeNull();
})->with([
    'another tag' => ['board', ['HTTP_IF_NONE_MATCH' => '"0123456789abcdef0123456789abcdef"']],
    'no tag' => ['board', ['HTTP_IF_NONE_MATCH' => '']],
    'something sent' => ['board', ['REQUEST_METHOD' => 'POST']],
    'a pick' => ['board', ['REQUEST_URI' => '{at}?pick={}']],
    'a search' => ['map', ['REQUEST_URI' => '{at}?search=s123456']],
    'a past day' => ['desk', ['REQUEST_URI' => '{at}?on=2026-01-01']],
    'another address' => ['board', ['REQUEST_URI' => '{at}/']],
    'a line in the address' => ['board', ['REQUEST_URI' => "{at}\n"]],
    'an address in other signs' => ['board', ['REQUEST_URI' => '{at}%20']],
    'another language' => ['board', ['HTTP_PIN_YARD_LANGUAGE' => 'de']],
    'a language that nobody reads here' => ['board', ['HTTP_PIN_YARD_LANGUAGE' => 'tlh']],
    'a look as an audience has it' => ['desk', ['HTTP_PIN_YARD_SEEN_AS' => '1:crews']],
    'who somebody else is' => ['me', ['HTTP_IF_NONE_MATCH' => '"0123456789abcdef0123456789abcdef"']],
    'a token' => ['desk', ['HTTP_AUTHORIZATION' => 'Bearer x']],
    'a screen of somebody else' => ['desk', ['HTTP_PIN_YARD_PERSON' => '1']],
    'a board that is not there' => ['desk', ['REQUEST_URI' => '/api/v1/boards/99999999/answers']],
    'a board with too large a number' => ['desk', ['REQUEST_URI' => '/api/v1/boards/9999999999999999999/answers']],
]);

it('knows nobody but by a session that stands', function (Closure $change): void {
    $tag = ($this->tag)('desk');
    $cookies = ($this->cookies)($this->head);
    expect(($this->short)('desk', $tag, $cookies))->not->toBeNull();
    $cookies = $change->call($this, $cookies) ?? $cookies;
    expect(($this->short)('desk', $tag, $cookies))->toBeNull();
})->with([
    'no cookie' => [fn (): array => []],
    'a cookie that is a list' => [fn (array $c): array => array_map(fn (): array => ['x'], $c)],
    'a cookie that was bent' => [fn (array $c): array => array_map(fn (string $x): string => substr($x, 0, -4), $c)],
    'a cookie that was sealed elsewhere' => [fn (array $c): array => array_map(
        fn (): string => ($this->sealed)($this->session, random_bytes(32)),
        $c,
    )],
    'a session that is not there' => [fn (array $c): array => array_map(
        fn (): string => ($this->sealed)(Str::random(40)),
        $c,
    )],
    'a session of nobody' => [function (): void {
        DB::table('sessions')->where('id', $this->session)->update(['payload' => base64_encode(serialize([]))]);
    }],
    'a session that is no session' => [function (): void {
        DB::table('sessions')->where('id', $this->session)->update(['payload' => 'x']);
    }],
    'a session in the name of another' => [function (): void {
        DB::table('sessions')->where('id', $this->session)->update(['user_id' => $this->person()->id]);
    }],
    'one who was signed out elsewhere' => [function (): void {
        DB::table('sessions')->where('id', $this->session)->delete();
    }],
    'a session that is to be written again' => [function (): void {
        DB::table('sessions')->where('id', $this->session)->update(['last_activity' => time() - 61]);
    }],
    'a session that is over' => [function (): void {
        DB::table('sessions')->where('id', $this->session)
            ->update(['last_activity' => time() - 60 * (int) config('session.lifetime') - 1]);
    }],
    'a second factor that is demanded' => [function (): void {
        DB::table('users')->where('id', $this->head->id)->update(['second_demanded' => true]);
    }],
    'an account that is gone' => [function (): void {
        DB::table('members')->where('user_id', $this->head->id)->delete();
        DB::table('users')->where('id', $this->head->id)->delete();
    }],
    'one who is no member any more' => [function (): void {
        DB::table('members')->where('user_id', $this->head->id)->delete();
    }],
    'a board that was thrown away' => [function (): void {
        Board::query()->findOrFail($this->board['id'])->delete();
    }],
]);

it('tells each person of their own alone', function (): void {
    $crew = $this->member($this->field, Role::Crew);
    $board = Board::query()->findOrFail($this->board['id']);
    $board->update(['audience' => Audience::Programme]);
    $stranger = $this->person();
    $hers = ($this->tag)('desk');
    $theirs = ($this->tag)('desk', $crew);
    expect(($this->short)('desk', $theirs, ($this->cookies)($crew)))->toBe(trim($theirs, '"'))
        ->and(($this->short)('desk', $hers, ($this->cookies)($stranger)))->toBeNull();
    // What one may see changes with what one is.
    $cookies = ($this->cookies)($crew);
    $group = $this->field->groups()->create(['name' => 'Partners', 'may_change' => false, 'members_seen' => false]);
    $this->field->memberFor($crew)->groups()->attach($group);
    expect(($this->short)('desk', $theirs, $cookies))->toBeNull();
});

it('tells nothing of a link that was withdrawn', function (): void {
    $tags = [($this->tag)('board'), ($this->tag)('map')];
    Board::query()->findOrFail($this->board['id'])->update(['audience' => Audience::Programme]);
    Map::query()->findOrFail($this->map->id)->update(['audience' => Audience::Programme]);
    expect(($this->short)('board', $tags[0]))->toBeNull()->and(($this->short)('map', $tags[1]))->toBeNull();
});

it('goes the long way where its database is away, or its settings are others', function (): void {
    $tag = ($this->tag)('desk');
    $cookies = ($this->cookies)($this->head);
    $whole = $this->config;
    foreach ([
        ['database.connections.mariadb.port', '1'],
        ['app.key', 'base64:'.base64_encode(random_bytes(32))],
        ['app.key', ''],
        ['app.version', '99'],
        ['session.driver', 'redis'],
    ] as [$name, $value]) {
        $this->config = $whole;
        data_set($this->config, $name, $value);
        expect(($this->short)('desk', $tag, $cookies))->toBeNull($name);
    }
    $this->config = $whole;
    expect(($this->short)('desk', $tag, $cookies))->not->toBeNull();
});
