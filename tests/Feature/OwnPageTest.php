<?php

declare(strict_types=1);

use App\Models\Role;
use App\Models\User;
use App\People\SecondFactor;
use Illuminate\Support\Facades\DB;
use PinYard\People\Totp;

/* What people change of their own account, and what a programme demands of who coordinates it. */

beforeEach(function (): void {
    DB::table('mail_box')->delete();
    $this->me = $this->person('Ana Silva');
    $this->mails = fn (): array => DB::table('mail_box')->orderBy('id')->get(['to', 'subject', 'text'])
        ->map(static fn (stdClass $m): array => (array) $m)->all();
    /** @return string the link in the newest mail to somebody */
    $this->link = fn (string $to, string $part): string => preg_match(
        "~/$part/(\w+)~",
        (string) DB::table('mail_box')->where('to', $to)->orderByDesc('id')->value('text'),
        $found,
    ) === 1 ? $found[1] : '';
    $this->code = static function (string $secret): string {
        // Base32 as RFC 4648 has it.
        $bits = implode('', array_map(
            static fn (string $c): string => sprintf('%05b', strpos('ABCDEFGHIJKLMNOPQRSTUVWXYZ234567', $c)),
            str_split($secret),
        ));
        $bytes = implode('', array_map(static fn (string $b): string => chr((int) bindec($b)), str_split($bits, 8)));

        return Totp::code($bytes, intdiv(now()->getTimestamp(), 30));
    };
    $this->second = function (User $who): void {
        ['secret' => $secret] = SecondFactor::begin($who);
        SecondFactor::confirm($who->fresh() ?? $who, ($this->code)($secret));
    };
});

it('renames oneself as names are written', function (string $name, ?string $becomes): void {
    $answer = $this->actingAs($this->me)->patchJson('/api/v1/me', ['name' => $name]);
    $answer->assertStatus($becomes === null ? 422 : 204);
    expect($this->me->fresh()?->name)->toBe($becomes ?? 'Ana Silva');
})->with([
    'another' => ['Ana Costa', 'Ana Costa'],
    'spaces and lines' => ["  Ana \n\t Costa ", 'Ana Costa'],
    'another script' => ['آنا كوستا', 'آنا كوستا'],
    'nothing' => ['', null],
    'only spaces' => [" \t ", null],
    'too long' => [str_repeat('a', 121), null],
]);

it('takes another address when its mail was opened, and writes to the old one', function (): void {
    $old = $this->me->email;
    $ask = fn (array $in): mixed => $this->actingAs($this->me)->postJson('/api/v1/me/address', $in + [
        'email' => 'Ana.New@Example.test', 'password' => 'a-long-password',
    ]);
    $ask(['password' => 'wrong-password-1'])->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'password_wrong');
    $ask(['email' => 'no address'])->assertUnprocessable();
    $ask([])->assertStatus(202);
    $first = ($this->link)('ana.new@example.test', 'address');
    // Nothing has changed yet, and of two that were asked for the later one counts.
    expect($this->me->fresh()?->email)->toBe($old);
    $ask([])->assertStatus(202);
    $this->getJson("/api/v1/address/$first")->assertNotFound();
    $token = ($this->link)('ana.new@example.test', 'address');
    $this->app['auth']->forgetGuards();
    $this->getJson("/api/v1/address/$token")->assertOk()
        ->assertExactJson(['name' => 'Ana Silva', 'email' => 'ana.new@example.test']);
    $this->postJson("/api/v1/address/$token")->assertNoContent();
    expect($this->me->fresh()?->email)->toBe('ana.new@example.test')
        ->and($this->me->fresh()?->email_verified_at)->not->toBeNull()
        ->and(array_column(($this->mails)(), 'to'))->toBe(['ana.new@example.test', 'ana.new@example.test', $old]);
    // Once.
    $this->postJson("/api/v1/address/$token")->assertNotFound();
});

it('does not take an address that is another\'s, and tells nobody that it is', function (): void {
    $other = $this->person('Other');
    $this->actingAs($this->me)->postJson('/api/v1/me/address', [
        'email' => $other->email, 'password' => 'a-long-password',
    ])->assertStatus(202);
    $token = ($this->link)($other->email, 'address');
    $this->postJson("/api/v1/address/$token")->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'address_taken');
    // Too late.
    $this->travel(61)->minutes();
    $this->postJson("/api/v1/address/$token")->assertNotFound();
});

it('writes when the password or the second factor has changed', function (): void {
    $this->actingAs($this->me)->putJson('/api/v1/me/password', [
        'current' => 'a-long-password', 'password' => 'another-long-word',
    ])->assertNoContent();
    $secret = $this->postJson('/api/v1/me/second-factor', ['password' => 'another-long-word'])->assertCreated()
        ->json('secret');
    $this->putJson('/api/v1/me/second-factor', ['code' => ($this->code)($secret)])->assertOk();
    $this->deleteJson('/api/v1/me/second-factor', ['password' => 'another-long-word'])->assertNoContent();
    expect(array_column(($this->mails)(), 'subject'))->toBe([
        'Your password for Pin Yard has changed',
        'Your second factor for Pin Yard is on',
        'Your second factor for Pin Yard is off',
    ])->and(array_unique(array_column(($this->mails)(), 'to')))->toBe([$this->me->email]);
});

it('mails what one wants to hear of, and always what is of the account', function (): void {
    $field = $this->programme($this->me);
    $crew = $this->crew($field);
    $member = $field->members()->where('user_id', $crew->id)->firstOrFail();
    $want = fn (array $in): mixed => $this->actingAs($crew->fresh())->patchJson('/api/v1/me', $in);
    $role = fn (string $role): mixed => $this->actingAs($this->me)
        ->patchJson("/api/v1/programmes/$field->id/people/$member->id", ['role' => $role])->assertNoContent();
    foreach ([['unwanted_mails' => ['all']], ['unwanted_mails' => 'roles'], ['unwanted_mails' => ['roles', 'roles']],
        []] as $wrong) {
        $want($wrong)->assertUnprocessable();
    }
    $role('guest');
    $want(['unwanted_mails' => ['roles']])->assertNoContent();
    $role('crew');
    $this->actingAs($crew->fresh())->getJson('/api/v1/me')->assertJsonPath('unwanted_mails', ['roles']);
    $this->putJson('/api/v1/me/password', ['current' => 'a-long-password', 'password' => 'another-long-word'])
        ->assertNoContent();
    $want(['unwanted_mails' => []])->assertNoContent();
    $role('guest');
    expect(array_column(($this->mails)(), 'to'))->toBe([$crew->email, $crew->email, $crew->email])
        ->and(($this->mails)()[1]['subject'])->toBe('Your password for Pin Yard has changed')
        ->and($crew->fresh()?->name)->toBe('Crew');
});

it('holds who coordinates at the door until there is a second factor, but not their work', function (): void {
    $field = $this->programme($this->me);
    $other = $this->member($field, Role::Coordinator);
    $crew = $this->crew($field);
    $layer = $this->layer($field);
    $at = "/api/v1/programmes/$field->id";
    $demand = fn (bool $on): mixed => $this->actingAs($this->me->fresh())->patchJson($at, ['second_factor' => $on]);
    // Nobody locks themselves out.
    $demand(true)->assertUnprocessable()->assertJsonPath('problems.0.code', 'second_first');
    ($this->second)($this->me);
    $demand(true)->assertOk()->assertJsonPath('second_factor', true);
    $this->actingAs($crew->fresh())->getJson($at)->assertOk();
    $this->actingAs($other->fresh())->getJson($at)->assertForbidden()
        ->assertJsonPath('problems.0.code', 'second_demanded');
    foreach (['programmes', 'packs', "layers/$layer->id/records", 'notices', 'search?q=a'] as $address) {
        $this->getJson("/api/v1/$address")->assertForbidden();
    }
    $this->getJson('/api/v1/me')->assertOk()->assertJsonPath('second_demanded', true);
    $this->getJson('/api/v1/me/devices')->assertOk();
    expect($this->sync($other->fresh(), [$this->add($layer)])['outcomes'][0]['outcome'])->toBe('applied');
    ($this->second)($other);
    $this->actingAs($other->fresh())->getJson($at)->assertOk();
    // Whoever becomes a coordinator now is asked for it as well, and no more when they are crew again.
    $member = $field->members()->where('user_id', $crew->id)->firstOrFail();
    $role = fn (string $role): mixed => $this->actingAs($this->me->fresh())
        ->patchJson("$at/people/$member->id", ['role' => $role])->assertNoContent();
    $role('coordinator');
    $this->actingAs($crew->fresh())->getJson($at)->assertForbidden();
    $role('crew');
    $this->actingAs($crew->fresh())->getJson($at)->assertOk();
    $demand(false)->assertOk();
    expect(User::query()->whereKey([$this->me->id, $other->id, $crew->id])->where('second_demanded', true)->count())
        ->toBe(0);
});

it('forgets what was demanded when the programme goes to the bin, and asks again when it is back', function (): void {
    $field = $this->programme($this->me);
    $other = $this->member($field, Role::Coordinator);
    ($this->second)($this->me);
    $this->actingAs($this->me->fresh())->patchJson("/api/v1/programmes/$field->id", ['second_factor' => true])
        ->assertOk();
    expect($other->fresh()?->second_demanded)->toBeTrue();
    $field->fresh()?->throwAway($this->me);
    expect($other->fresh()?->second_demanded)->toBeFalse();
    App\Models\Programme::binned()->findOrFail($field->id)->restore();
    expect($other->fresh()?->second_demanded)->toBeTrue();
});
