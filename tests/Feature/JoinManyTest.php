<?php

declare(strict_types=1);

use App\Models\Invitation;
use App\Models\User;
use PinYard\People\TypedCode;

/* One invitation for many: whoever has its link, or types its code, says who they are. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->make = fn (array $in = []): mixed => $this->actingAs($this->head)->postJson(
        "/api/v1/programmes/{$this->field->id}/invitations",
        $in + ['role' => 'crew', 'most' => 2, 'crew' => 'Class 4B'],
    );
    $this->join = function (string $token, array $in): mixed {
        $this->app['auth']->forgetGuards();

        return $this->postJson("/api/v1/join/$token", $in + ['password' => 'some-long-word-7']);
    };
});

it('lets in as many as it is for, by link and by code, and then nobody', function (): void {
    $made = ($this->make)()->assertCreated()->json();
    $token = substr($made['address'], strlen('/join/'));
    $typed = strtolower(strtr($made['code'], ['-' => '', '0' => 'o', '1' => 'l']));
    expect($made['code'])->toMatch('/^([0-9A-HJKMNP-TV-Z]{4}-){2}[0-9A-HJKMNP-TV-Z]{4}$/');
    $this->app['auth']->forgetGuards();
    $this->getJson("/api/v1/join/$token")->assertOk()->assertJsonPath('many', true)->assertJsonPath('email', '');
    foreach ([['name' => '', 'email' => 'a@example.test'], ['name' => ' ', 'email' => 'a@example.test'],
        ['name' => 'Ana', 'email' => 'no address'], ['name' => 'Ana']] as $wrong) {
        ($this->join)($token, $wrong)->assertUnprocessable();
    }
    ($this->join)($token, ['name' => " Ana \n Silva ", 'email' => 'ANA.many@example.test'])->assertCreated();
    $ana = User::query()->where('email', 'ana.many@example.test')->firstOrFail();
    expect($ana->name)->toBe('Ana Silva')->and($ana->email_verified_at)->toBeNull()
        ->and($this->field->members()->where('user_id', $ana->id)->firstOrFail()->crew?->name)->toBe('Class 4B');
    // The same person once more takes nobody's place.
    ($this->join)(rawurlencode($typed), ['name' => 'Ana', 'email' => 'ana.many@example.test'])->assertCreated();
    ($this->join)(rawurlencode($typed), ['name' => 'Bo', 'email' => 'bo.many@example.test'])->assertCreated();
    ($this->join)($token, ['name' => 'Cy', 'email' => 'cy.many@example.test'])->assertNotFound();
    ($this->join)(rawurlencode($typed), ['name' => 'Cy', 'email' => 'cy.many@example.test'])->assertNotFound();
    expect(User::query()->where('email', 'cy.many@example.test')->exists())->toBeFalse();
});

it('takes nobody\'s account for a name and an address', function (): void {
    $token = substr(($this->make)()->json('address'), strlen('/join/'));
    $victim = $this->person('Victim');
    ($this->join)($token, ['name' => 'Me', 'email' => $victim->email])->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'join_password');
    $own = ['name' => 'Me', 'email' => $victim->email, 'password' => 'a-long-password'];
    ($this->join)($token, $own)->assertCreated();
    expect($victim->fresh()?->name)->toBe('Victim');
});

it('leads to crews and guests alone, for two and more', function (array $wrong, string $field): void {
    $answer = ($this->make)($wrong)->assertUnprocessable();
    expect(array_column($answer->json('problems'), 'field'))->toBe([$field]);
})->with([
    'coordinators' => [['role' => 'coordinator'], 'role'],
    'makers' => [['role' => 'maker'], 'role'],
    'who make besides' => [['makes' => true], 'role'],
    'one' => [['most' => 1], 'most'],
    'no end' => [['most' => 501], 'most'],
    'words' => [['most' => 'all'], 'most'],
]);

it('leads nowhere when it was taken back, or is too old', function (): void {
    $made = ($this->make)()->json();
    $token = substr($made['address'], strlen('/join/'));
    $this->travel(15)->days();
    $this->getJson("/api/v1/join/{$made['code']}")->assertNotFound();
    $this->travelBack();
    $this->getJson("/api/v1/join/{$made['code']}")->assertOk();
    $invitation = Invitation::query()->whereNotNull('code_hash')->latest('id')->firstOrFail();
    $listed = $this->actingAs($this->head)->getJson("/api/v1/programmes/{$this->field->id}/people")
        ->json('invitations.0');
    expect([$listed['most'], $listed['used']])->toBe([2, 0]);
    $this->deleteJson("/api/v1/programmes/{$this->field->id}/invitations/$invitation->id")->assertNoContent();
    $this->app['auth']->forgetGuards();
    $this->getJson("/api/v1/join/$token")->assertNotFound();
    $this->getJson("/api/v1/join/{$made['code']}")->assertNotFound();
});

it('reads a code however it is typed, and nothing else as one', function (string $typed, ?string $code): void {
    expect(TypedCode::read($typed))->toBe($code);
})->with([
    ['4f7k-9m2p-qr5t', '4F7K9M2PQR5T'],
    ["4f7k 9m2p\tqr5t", '4F7K9M2PQR5T'],
    ['4F7K–9M2P—QR5T', '4F7K9M2PQR5T'],
    ['OiLo-0000-0000', '011000000000'],
    ['4F7K9M2PQR5', null],
    ['4F7K9M2PQR5TT', null],
    ['UUUU-UUUU-UUUU', null],
    ['', null],
    ["\xff\xfe", null],
]);
