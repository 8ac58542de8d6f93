<?php

declare(strict_types=1);

use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\People\Totp;

/* Whoever has set up an authenticator app signs in with the password and a code of it, each code once. */

beforeEach(function (): void {
    $this->freezeSecond();
    $this->me = $this->person('Head');
    $this->code = function (string $secret, int $later = 0): string {
        // The other way, by hand: Base32 as RFC 4648 has it.
        $bits = implode('', array_map(
            static fn (string $c): string => sprintf('%05b', strpos('ABCDEFGHIJKLMNOPQRSTUVWXYZ234567', $c)),
            str_split($secret),
        ));
        $bytes = implode('', array_map(static fn (string $b): string => chr((int) bindec($b)), str_split($bits, 8)));

        return Totp::code($bytes, intdiv(now()->getTimestamp() + $later, 30));
    };
    $this->sign = function (array $more = [], string $password = 'a-long-password'): mixed {
        app('auth')->forgetGuards();

        return $this->postJson('/api/v1/session', ['email' => $this->me->email, 'password' => $password] + $more);
    };
    $this->setUp = function (): array {
        $secret = $this->actingAs($this->me)->postJson('/api/v1/me/second-factor', ['password' => 'a-long-password'])
            ->assertCreated()->json('secret');
        $codes = $this->putJson('/api/v1/me/second-factor', ['code' => ($this->code)($secret)])->assertOk()
            ->json('codes');

        return [$secret, $codes];
    };
});

it('asks for a code after the password, and never says before that whether there is one', function (): void {
    [$secret] = ($this->setUp)();
    ($this->sign)([], 'wrong-password')->assertJsonPath('problems.0.code', 'sign_in_wrong');
    ($this->sign)()->assertUnprocessable()->assertJsonPath('problems.0.code', 'second_needed');
    ($this->sign)(['code' => '000000'])->assertUnprocessable()->assertJsonPath('problems.0.code', 'second_wrong');
    $this->travel(30)->seconds();
    ($this->sign)(['code' => ($this->code)($secret)])->assertOk()->assertJsonPath('second_factor', true);
    // Each goes once.
    ($this->sign)(['code' => ($this->code)($secret)])->assertJsonPath('problems.0.code', 'second_wrong');
});

it('lets in once by each code that was written down', function (): void {
    [, $codes] = ($this->setUp)();
    expect($codes)->toHaveCount(10)->and(array_unique($codes))->toHaveCount(10);
    ($this->sign)(['code' => strtoupper(strtr($codes[3], '-', ' '))])->assertOk();
    ($this->sign)(['code' => $codes[3]])->assertUnprocessable();
    ($this->sign)(['code' => $codes[4]])->assertOk();
});

it('is not asked for before the app has shown that it knows the secret', function (): void {
    $this->actingAs($this->me)->postJson('/api/v1/me/second-factor', ['password' => 'no'])->assertUnprocessable();
    $this->postJson('/api/v1/me/second-factor', ['password' => 'a-long-password'])->assertCreated();
    $this->putJson('/api/v1/me/second-factor', ['code' => '123'])->assertJsonPath('problems.0.code', 'second_wrong');
    ($this->sign)()->assertOk();
});

it('ends with the password alone, and another app begins anew', function (): void {
    ($this->setUp)();
    $this->actingAs($this->me->refresh())->postJson('/api/v1/me/second-factor', ['password' => 'a-long-password'])
        ->assertJsonPath('problems.0.code', 'second_there');
    $this->deleteJson('/api/v1/me/second-factor', ['password' => 'wrong'])->assertUnprocessable();
    $this->deleteJson('/api/v1/me/second-factor', ['password' => 'a-long-password'])->assertNoContent();
    ($this->sign)()->assertOk()->assertJsonPath('second_factor', false);
    expect(User::query()->findOrFail($this->me->id)->totp_secret)->toBeNull();
});

it('keeps neither the secret nor the codes as they are', function (): void {
    [$secret, $codes] = ($this->setUp)();
    $row = json_encode(DB::table('users')->find($this->me->id));
    expect($row)->not->toContain($secret)->not->toContain($codes[0])
        ->and(json_encode(User::query()->find($this->me->id)))->not->toContain('totp_secret');
});

it('is not gone around by an invitation', function (): void {
    ($this->setUp)();
    $programme = $this->programme($this->person());
    $token = Illuminate\Support\Str::random(32);
    $programme->invitations()->create([
        'token_hash' => hash('sha256', $token), 'name' => 'Head', 'email' => $this->me->email, 'role' => 'guest',
        'expires_at' => now()->addDay(),
    ]);
    app('auth')->forgetGuards();
    $this->postJson("/api/v1/join/$token", ['password' => 'a-long-password'])->assertCreated();
    app('auth')->forgetGuards();
    $this->getJson('/api/v1/me')->assertUnauthorized();
});
