<?php

declare(strict_types=1);

use App\Alerts\AlertRounds;
use App\Language;
use App\Maps\LegendText;
use App\Models\Alert;
use App\Models\Audience;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Problem;

/* In which language things are said: to whoever asks, to whoever gets a mail, and from what was kept. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->reads = function ($person, ?string $language) {
        $person->forceFill(['language' => $language])->save();

        return $person;
    };
    /** @return array{subject: string, text: string} the newest mail to somebody */
    $this->mail = fn (string $to): array => (array) DB::table('mail_box')->where('to', $to)->orderByDesc('id')
        ->first(['subject', 'text']);
});

afterEach(fn () => Texts::speak(Language::FIRST));

it('knows the languages that there are sentences in', function (): void {
    $files = array_map(
        static fn (string $f): string => basename($f, '.json'),
        glob(resource_path('texts/*.json')) ?: [],
    );
    expect($files)->toEqualCanonicalizing(Language::KNOWN);
});

// Source: RFC 9110, 12.5.4 (Accept-Language).
it('answers in the language of the page, of the cookie or of the browser, in this order', function (
    array $headers,
    ?string $cookie,
    string $language,
): void {
    $asking = $cookie === null ? $this : $this->withUnencryptedCookies([Language::COOKIE => $cookie]);
    $asking->withCredentials()->getJson('/api/v1/me', $headers)->assertUnauthorized()
        ->assertHeader('Content-Language', $language)
        ->assertJsonPath('title', $language === 'de' ? 'Bitte melden Sie sich an.' : 'Please sign in.');
})->with([
    'nothing said' => [[], null, 'en'],
    'the browser' => [['Accept-Language' => 'de-CH,de;q=0.9,en;q=0.8'], null, 'de'],
    'the browser, by weight' => [['Accept-Language' => 'de;q=0.2,en;q=0.9'], null, 'en'],
    'one that nobody speaks here, then German' => [['Accept-Language' => 'sv, de;q=0.5'], null, 'de'],
    'one that nobody speaks here' => [['Accept-Language' => 'sv'], null, 'en'],
    'the cookie before the browser' => [['Accept-Language' => 'en'], 'de', 'de'],
    'the page before the cookie' => [['Pin-Yard-Language' => 'en', 'Accept-Language' => 'de'], 'de', 'en'],
    'nonsense' => [['Pin-Yard-Language' => '../en', 'Accept-Language' => str_repeat('x-,;q=', 400)], "de'", 'en'],
    'another way of writing' => [['Pin-Yard-Language' => 'DE'], null, 'en'],
]);

it('keeps a choice, and refuses what it does not speak', function (mixed $language, int $status): void {
    $this->actingAs(($this->reads)($this->head, 'en'))->patchJson('/api/v1/me', ['language' => $language])
        ->assertStatus($status);
    expect($this->head->fresh()?->language)->toBe($status === 204 ? $language : 'en')
        ->and($this->head->fresh()?->name)->toBe('Head');
    $this->getJson('/api/v1/me')->assertJsonPath('language', $status === 204 ? $language : 'en');
})->with([
    ['de', 204], ['en', 204], ['fr', 422], ['', 422], [null, 422], [['de'], 422], [1, 422], ['DE', 422], ['de ', 422],
]);

it('changes nothing of an account where a part of what is sent is refused', function (): void {
    $mine = fn (): array => ($this->head->fresh() ?? $this->head)->only(['name', 'language', 'unwanted_mails']);
    $before = ($this->reads)($this->head, 'en')->only(['name', 'language', 'unwanted_mails']);
    foreach ([['name' => ' '], ['unwanted_mails' => ''], ['unwanted_mails' => ['x']], ['name' => 1]] as $bad) {
        $this->actingAs($this->head)->patchJson('/api/v1/me', $bad + ['language' => 'de'])->assertUnprocessable();
        expect($mine())->toBe($before);
    }
    $this->patchJson('/api/v1/me', ['language' => 'de', 'name' => 'Ada', 'unwanted_mails' => ['roles']])
        ->assertNoContent();
    expect($mine())->toBe(['name' => 'Ada', 'language' => 'de', 'unwanted_mails' => ['roles']]);
});

it('takes the language of the browser at the first sign-in, and leaves a choice alone', function (): void {
    $in = fn (string $language) => $this->postJson('/api/v1/session', [
        'email' => $this->head->email, 'password' => 'a-long-password',
    ], ['Accept-Language' => $language])->assertOk();
    $in('de')->assertJsonPath('language', 'de');
    $in('en')->assertJsonPath('language', 'de');
});

it('keeps an answer for one language alone', function (): void {
    // A field that a record may leave out: what is missing is said in words.
    $nests = $this->layer($this->field, ['fields' => [
        ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
        ['key' => 'species', 'label' => 'Species', 'kind' => 'one_choice', 'choices' => [
            ['code' => 'CC', 'label' => 'Loggerhead'],
        ]],
        ['key' => 'clutch', 'label' => 'Clutch', 'kind' => 'decimal'],
    ]]);
    $this->sync($this->crew($this->field), [$this->add($nests, ['values' => ['code' => 'A', 'clutch' => 3.5]])]);
    $map = $this->mapOf(
        $nests,
        ['look' => ['kind' => 'classes', 'field' => 'clutch', 'breaks' => [2.5]]],
        Audience::Link,
    );
    $board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B', 'audience' => 'link', 'tiles' => [
            ['id' => 'n', 'kind' => 'breakdown', 'title' => 'N', 'width' => 3, 'height' => 2,
                'layer' => $nests->id, 'by' => ['field' => 'species']],
        ],
    ])->assertCreated()->json();
    $map->refresh();
    foreach ([
        "/api/v1/open/maps/$map->link_token" => ['Accept-Language' => 'de'],
        '/api/v1/open'.$this->linkOf($board) => ['Accept-Language' => 'de'],
        "/api/v1/boards/{$board['id']}/answers" => ['Pin-Yard-Language' => 'de'],
    ] as $address => $german) {
        $ask = fn (array $headers) => $this->get($address, $headers + ['Accept' => 'application/json']);
        // Twice each, and by turns: from what was kept, also.
        [$en, $de] = [$ask([])->assertOk(), $ask($german)->assertOk()];
        [$enTag, $deTag] = [$en->headers->get('ETag'), $de->headers->get('ETag')];
        $without = static fn ($a): string => (string) preg_replace('/"(as_of|at)":"[^"]*"/', '', $a->getContent());
        expect($without($de))->not->toBe($without($en), $address)->and($deTag)->not->toBe($enTag);
        expect($without($ask($german)->assertOk()))->toBe($without($de))
            ->and($without($ask([])->assertOk()))->toBe($without($en));
        $ask(['If-None-Match' => $enTag])->assertStatus(304);
        $ask($german + ['If-None-Match' => $deTag])->assertStatus(304);
        $ask($german + ['If-None-Match' => $enTag])->assertOk();
        $ask(['If-None-Match' => $deTag])->assertOk();
    }
});

it('writes to people in their own language, whoever makes it write', function (): void {
    ($this->reads)($this->head, 'en');
    $ines = ($this->reads)($this->crew($this->field), 'de');
    $member = $this->field->members()->where('user_id', $ines->id)->value('id');
    $this->actingAs($this->head)
        ->patchJson("/api/v1/programmes/{$this->field->id}/people/$member", ['role' => 'maker'])
        ->assertNoContent();
    expect(($this->mail)($ines->email))
        ->subject->toBe(
            "{$this->field->name}: Ihre Rolle ist jetzt ".Texts::in('de', static fn () => Texts::of('role.maker')),
        )
        ->text->toContain("Hallo $ines->name", 'Head hat geändert');
    $this->postJson('/api/v1/password/forgot', ['email' => $ines->email], ['Accept-Language' => 'en']);
    expect(($this->mail)($ines->email)['subject'])->toBe('Ein neues Passwort für Pin Yard');
    // Who is not known yet is asked in the language of whoever asks.
    $ask = fn (string $email, string $language) => $this->actingAs($this->head)
        ->postJson("/api/v1/programmes/{$this->field->id}/people", [
            'name' => 'Jo', 'email' => $email, 'role' => 'guest', 'mail' => true,
        ], ['Pin-Yard-Language' => $language])->assertCreated();
    $mark = bin2hex(random_bytes(4));
    $ask("jo.$mark@example.test", 'de');
    $ask("jay.$mark@example.test", 'en');
    expect(($this->mail)("jo.$mark@example.test")['subject'])->toBe("Head lädt Sie zu {$this->field->name} ein")
        ->and(($this->mail)("jay.$mark@example.test")['subject'])->toBe("Head invites you to {$this->field->name}");
});

it('tells an alert to each in their language, also to two who see alike', function (): void {
    [$ann, $ben] = [($this->reads)($this->crew($this->field), 'de'), ($this->reads)($this->crew($this->field), null)];
    $crew = $this->field->crews()->create(['name' => 'North']);
    $this->field->members()->whereIn('user_id', [$ann->id, $ben->id])->update(['crew_id' => $crew->id]);
    $nests = $this->layer($this->field);
    $large = $nests->slices()->create([
        'name' => 'Large clutches',
        'filter' => ['all' => [['field' => 'clutch', 'test' => 'at_least', 'value' => 100]]],
    ]);
    $this->actingAs(($this->reads)($this->head, 'de'))->postJson("/api/v1/programmes/{$this->field->id}/alerts", [
        'name' => 'Look', 'rule' => ['kind' => 'slice', 'layer' => $nests->id, 'slice' => $large->id],
        'to' => ['coordinators' => true, 'crews' => [$crew->id]], 'by_mail' => true,
    ])->assertCreated();
    AlertRounds::run();
    foreach (['N-1', 'N-2'] as $code) {
        $this->sync($ann, [$this->add($nests, ['values' => ['code' => $code, 'species' => 'CC', 'clutch' => 120]])]);
    }
    AlertRounds::run();
    $german = Texts::in('de', static fn (): string => Texts::of('alert.told.slice', ['name' => 'Look', 'n' => 2]));
    expect($german)->toBe('Look: 2 neue Datensätze');
    foreach ([[$this->head, $german], [$ann, $german], [$ben, 'Look: 2 new records']] as [$person, $text]) {
        expect($this->actingAs($person)->getJson('/api/v1/notices')->json('notices.*.text'))->toBe([$text])
            ->and(($this->mail)($person->email)['text'])->toContain($text);
    }
});

it('says what was kept in the language of whoever reads it', function (): void {
    $problem = new Problem('required', 'code', null, ['label' => 'Nest code']);
    $kept = json_decode((string) json_encode(Texts::problems([$problem])), true);
    [$english, $german] = [
        Texts::keptProblems($kept)[0]['message'] ?? '',
        Texts::in('de', static fn () => Texts::keptProblems($kept)[0]['message'] ?? ''),
    ];
    expect($english)->toBe($kept[0]['message'])->and($german)->not->toBe($english)->toContain('Nest code')
        // What no release says any more, and what was kept as a sentence alone.
        ->and(Texts::keptProblems([['code' => 'no_such', 'message' => 'As it was']])[0]['message'] ?? '')->toBe(
            'As it was',
        )
        ->and(Texts::keptProblem('An old sentence.'))->toBe('An old sentence.')
        ->and(Texts::keptProblem(null))->toBeNull();
    $alert = new Alert;
    $alert->trouble = (string) json_encode(Texts::problems([$problem])[0]);
    expect(Texts::in('de', static fn () => Texts::keptProblem($alert->trouble)))->toBe($german);
});

it('comes back to the language before, also when the work fails', function (): void {
    expect(fn () => Texts::in('de', static fn () => throw new LogicException))->toThrow(LogicException::class)
        ->and(Texts::spoken())->toBe('en')
        ->and(Texts::in('de', static fn () => Texts::in('en', static fn () => Texts::spoken()).Texts::spoken()))
        ->toBe('ende')
        ->and(Texts::in('xx', static fn () => Texts::spoken()))->toBe('en');
});

it('writes numbers as they are written in the language', function (): void {
    expect(LegendText::range(2.5, 1000.25, ' m'))->toContain('2.5', '1000.25 m')
        ->and(Texts::in('de', static fn () => LegendText::range(-2.5, 1000.25, ' m')))->toContain('−2,5', '1000,25 m');
});
