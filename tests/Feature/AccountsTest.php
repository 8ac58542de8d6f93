<?php

declare(strict_types=1);

use App\Mailing\Letter;
use App\Models\Invitation;
use App\Models\Role;
use App\Models\User;
use App\People\Devices;
use Illuminate\Support\Facades\Auth;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Hash;
use Illuminate\Support\Str;
use PinYard\People\NewPassword;

/* Accounts: who gets in, who does not, and what nobody is told (OWASP ASVS 4.0.3, chapters 2 and 3). */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->head = $this->person('Head'));
    $this->address = Str::lower(Str::random(10)).'@example.test';
    $this->invite = fn (string $role = 'crew', ?string $email = null): string => basename(
        $this->actingAs($this->head)
            ->postJson("/api/v1/programmes/{$this->programme_->id}/people", [
                'name' => 'New',
                'email' => $email ?? $this->address,
                'role' => $role,
            ])
            ->assertCreated()
            ->json('address'),
    );
    $this->mailed = fn (?string $to = null): string => (string) preg_replace(
        '/.*\/(join|reset)\/(\w+).*/s',
        '$2',
        (string) DB::table('mail_box')
            ->where('to', $to ?? $this->address)
            ->orderByDesc('id')
            ->value('text'),
    );
    $this->join = function (string $token, string $password = 'a quiet grey heron') {
        app('auth')->forgetGuards();

        return $this->postJson("/api/v1/join/$token", ['password' => $password]);
    };
    $this->signIn = function (string $email, string $password, array $server = []) {
        app('auth')->forgetGuards();

        return $this->call(
            'POST',
            '/api/v1/session',
            [],
            $this->cookies ?? [],
            [],
            ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json', ...$server],
            (string) json_encode(['email' => $email, 'password' => $password]),
        );
    };
});

describe('an invitation', function (): void {
    it('proves an address only where it was mailed there', function (): void {
        $token = ($this->invite)();
        ($this->join)($token)->assertCreated();
        expect(User::query()->where('email', $this->address)->sole()->email_verified_at)->toBeNull();
        $this->address = Str::lower(Str::random(10)).'@example.test';
        ($this->invite)();
        ($this->join)(($this->mailed)())->assertCreated();
        expect(User::query()->where('email', $this->address)->sole()->email_verified_at)->not->toBeNull();
    });

    it('never lets its maker take another\'s account', function (): void {
        $victim = $this->person('Victim');
        $victim->forceFill(['email_verified_at' => now()])->save();
        foreach ([($this->invite)('coordinator', $victim->email), ($this->mailed)($victim->email)] as $token) {
            ($this->join)($token, 'another long sentence')
                ->assertUnprocessable()
                ->assertJsonPath('problems.0.code', 'join_password');
        }
        expect(Hash::check('a-long-password', $victim->refresh()->password))
            ->toBeTrue()
            ->and($this->programme_->members()->where('user_id', $victim->id)->exists())
            ->toBeFalse();
    });

    it('gives an account whose address nobody proved to whoever proves it', function (): void {
        ($this->join)(($this->invite)(), 'the maker knows this one')->assertCreated();
        $other = $this->programme($head = $this->person('Other'));
        $this->actingAs($head)
            ->postJson("/api/v1/programmes/{$other->id}/people", [
                'name' => 'Owner',
                'email' => $this->address,
                'role' => 'crew',
            ])
            ->assertCreated();
        ($this->join)(($this->mailed)(), 'its owner knows this one')->assertCreated();
        ($this->signIn)($this->address, 'the maker knows this one')->assertUnprocessable();
        ($this->signIn)($this->address, 'its owner knows this one')->assertOk();
    });

    it('says nothing of whether its address has an account', function (): void {
        $known = $this->person();
        $told = [];
        foreach ([$known->email, $this->address] as $email) {
            $told[] = array_diff_key(
                $this->getJson('/api/v1/join/'.($this->invite)('crew', $email))
                    ->assertOk()
                    ->json(),
                ['email' => 1],
            );
        }
        expect($told[0])->toBe($told[1]);
    });

    it('makes the last coordinator no crew', function (): void {
        $this->head->forceFill(['password' => 'a quiet grey heron'])->save();
        ($this->join)(($this->invite)('crew', $this->head->email))->assertCreated();
        expect($this->programme_->members()->where('user_id', $this->head->id)->value('role'))->toBe(Role::Coordinator);
    });

    it('is used once', function (): void {
        $token = ($this->invite)();
        ($this->join)($token)->assertCreated();
        ($this->join)($token)->assertNotFound();
        ($this->join)(($this->mailed)())->assertNotFound();
        expect(Invitation::byToken($token)->sole()->isOpen())->toBeFalse();
    });
});

describe('a password', function (): void {
    it('counts whole, however long', function (): void {
        // bcrypt reads 72 bytes; what stands behind them was no part of the password.
        $long = str_repeat('seventy-two bytes are not enough. ', 4);
        ($this->join)(($this->invite)(), "{$long}A")->assertCreated();
        ($this->signIn)($this->address, "{$long}B")->assertUnprocessable();
        ($this->signIn)($this->address, "{$long}A")->assertOk();
    });

    it('that is kept as an older hash still fits, and is turned', function (): void {
        $user = $this->person();
        DB::table('users')
            ->where('id', $user->id)
            ->update(['password' => password_hash('an older password', PASSWORD_BCRYPT, ['cost' => 4])]);
        ($this->signIn)($user->email, 'an older password')->assertOk();
        expect(DB::table('users')->where('id', $user->id)->value('password'))->toStartWith('$argon2id$');
    });

    it('is refused where everybody tries it, or it is one\'s own name', function (
        string $password,
        string $code,
    ): void {
        ($this->join)(($this->invite)(), $password)->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
        expect(User::query()->where('email', $this->address)->exists())->toBeFalse();
    })->with([
        ['short', 'password_length'],
        ['password1234', 'password_common'],
        ['Password2024!!', 'password_common'],
        ['123456789012', 'password_common'],
        ['qwertyuiop12', 'password_common'],
        ['dragondragon', 'password_common'],
        ['aaaaaaaaaaaa', 'password_common'],
    ]);

    it('of any script is good', function (): void {
        $common = static fn (string $word): bool => false;
        expect(NewPassword::problem('ウミガメは夜の浜で卵を産む。', $common))
            ->toBeNull()
            ->and(NewPassword::problem('mara calder 1', $common, ['Mara Calder'])?->code)
            ->toBe('password_own')
            ->and(NewPassword::problem('a quiet grey heron', $common, ['Mara', 'mara@example.test']))
            ->toBeNull();
    });

    it('is changed by who knows the present one', function (): void {
        $user = $this->person();
        $this->actingAs($user)
            ->putJson('/api/v1/me/password', ['current' => 'wrong', 'password' => 'a quiet grey heron'])
            ->assertUnprocessable()
            ->assertJsonPath('problems.0.code', 'password_wrong');
        $this->putJson('/api/v1/me/password', [
            'current' => 'a-long-password',
            'password' => 'password1234',
        ])->assertUnprocessable();
        $this->putJson('/api/v1/me/password', [
            'current' => 'a-long-password',
            'password' => 'a quiet grey heron',
        ])->assertNoContent();
        ($this->signIn)($user->email, 'a quiet grey heron')->assertOk();
    });
});

describe('a forgotten password', function (): void {
    it('is chosen anew by a link that works once, for an hour, and signs out everywhere', function (): void {
        $user = $this->person();
        DB::table('sessions')->insert([
            'id' => Str::random(40),
            'user_id' => $user->id,
            'payload' => '',
            'last_activity' => time(),
        ]);
        $this->postJson('/api/v1/password/forgot', ['email' => strtoupper($user->email)])->assertStatus(202);
        $token = ($this->mailed)($user->email);
        $this->getJson("/api/v1/password/$token")->assertNoContent();
        $this->postJson("/api/v1/password/$token", ['password' => 'password1234'])->assertUnprocessable();
        $this->postJson("/api/v1/password/$token", ['password' => 'a quiet grey heron'])->assertNoContent();
        $this->postJson("/api/v1/password/$token", ['password' => 'another grey heron'])->assertNotFound();
        ($this->signIn)($user->email, 'a quiet grey heron')->assertOk();
        expect(Devices::of($user, ''))->toBe([])->and($user->refresh()->email_verified_at)->not->toBeNull();
        $this->postJson('/api/v1/password/forgot', ['email' => $user->email]);
        $late = ($this->mailed)($user->email);
        $this->travel(61)->minutes();
        $this->getJson("/api/v1/password/$late")->assertNotFound();
        $this->postJson("/api/v1/password/$late", ['password' => 'another grey heron'])->assertNotFound();
    });

    it('tells nobody whether there is an account', function (): void {
        $known = $this->postJson('/api/v1/password/forgot', ['email' => $this->person()->email]);
        $unknown = $this->postJson('/api/v1/password/forgot', [
            'email' => 'nobody-'.Str::random(8).'@example.test',
        ]);
        expect($unknown->getStatusCode())
            ->toBe($known->getStatusCode())
            ->and($unknown->getContent())
            ->toBe($known->getContent());
        // A sign-in works as hard for nobody: a hash is checked for either.
        $known = ($this->signIn)($this->person()->email, 'wrong password');
        $unknown = ($this->signIn)('nobody@example.test', 'wrong password');
        expect($unknown->getContent())->toBe($known->getContent());
        $checks = 0;
        Hash::partialMock()
            ->shouldReceive('check')
            ->andReturnUsing(function () use (&$checks): bool {
                $checks++;

                return false;
            });
        ($this->signIn)('nobody@example.test', 'wrong password');
        expect($checks)->toBe(1);
    });

    it('lets no name write a header of the mail', function (): void {
        Letter::send('x@example.test', null, 'mail.invite', [
            'name' => 'N',
            'programme' => "P\r\nBcc: all@example.test",
            'by' => 'B',
            'address' => 'a',
        ]);
        expect(DB::table('mail_box')->orderByDesc('id')->value('subject'))->toBe(
            'B invites you to P Bcc: all@example.test',
        );
    });
});

it('slows guessing down, from one address and from many, and does not lock the owner out', function (): void {
    $user = $this->person();
    $known = collect(
        ($this->signIn)($user->email, 'a-long-password', ['REMOTE_ADDR' => '10.0.0.1'])
            ->assertOk()
            ->headers->getCookies(),
    )->firstWhere(fn ($c) => $c->getName() === 'pinyard_known');
    $status = 0;
    for ($i = 0; $i < 12 && $status !== 429; $i++) {
        $status = ($this->signIn)($user->email, "guess $i", ['REMOTE_ADDR' => '10.0.0.2'])->getStatusCode();
    }
    expect($status)->toBe(429)->and($i)->toBe(11);
    for ($i = 0; $i < 40; $i++) {
        $status = ($this->signIn)($user->email, "guess $i", ['REMOTE_ADDR' => "10.1.0.$i"])->getStatusCode();
    }
    expect($status)->toBe(429);
    // A stranger with the right password has to wait as well; the browser that it was signed in with does not.
    ($this->signIn)($user->email, 'a-long-password', ['REMOTE_ADDR' => '10.3.0.1'])->assertStatus(429);
    $this->cookies = ['pinyard_known' => $known->getValue()];
    ($this->signIn)($user->email, 'a-long-password', ['REMOTE_ADDR' => '10.3.0.2'])->assertOk();
});

it('shows where one is signed in, and signs out there', function (): void {
    $user = $this->person();
    foreach (
        ['Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 Chrome/126.0 Mobile '
            .'Safari/537.36', "\xFF\xFE"] as $i => $agent
    ) {
        DB::table('sessions')->insert([
            'id' => ($ids[] = Str::random(40)),
            'user_id' => $user->id,
            'ip_address' => '10.0.0.9',
            'user_agent' => mb_scrub($agent),
            'payload' => '',
            'last_activity' => time() - $i,
        ]);
    }
    $other = $this->person();
    DB::table('sessions')->insert([
        'id' => Str::random(40),
        'user_id' => $other->id,
        'payload' => '',
        'last_activity' => time(),
    ]);
    $devices = $this->actingAs($user)->getJson('/api/v1/me/devices')->assertOk()->json();
    expect(array_column($devices, 'agent')[0])
        ->toBe('Chrome 126, Android')
        ->and($devices)
        ->toHaveCount(2)
        ->and(json_encode($devices))
        ->not->toContain($ids[0]);
    $this->deleteJson("/api/v1/me/devices/{$devices[0]['id']}")->assertNoContent();
    $this->deleteJson('/api/v1/me/devices/'.Devices::of($other, '')[0]['id'])->assertNotFound();
    expect(DB::table('sessions')->where('user_id', $user->id)->pluck('id')->all())
        ->toBe([$ids[1]])
        ->and(Devices::of($other, ''))
        ->toHaveCount(1);
});

it('gives the mail box to the demo alone', function (): void {
    config(['app.demo' => null]);
    $this->actingAs($this->head)->getJson('/api/v1/mail-box')->assertNotFound();
    $this->getJson('/api/v1/about')
        ->assertOk()
        ->assertExactJson(['demo' => null]);
});

it(
    'takes no request of a signed-in person without their token, and none of a stranger that is not JSON',
    function (): void {
        $this->withMiddleware(App\Http\Middleware\CsrfOfSignedIn::class);
        app()->bind('env', static fn (): string => 'production');
        Auth::login($this->head);
        $this->post('/api/v1/programmes', ['name' => 'Forged'])->assertStatus(419);
        Auth::logout();
        $this->call(
            'POST',
            '/api/v1/session',
            [],
            [],
            [],
            ['CONTENT_TYPE' => 'text/plain', 'HTTP_ACCEPT' => 'application/json'],
            (string) json_encode(['email' => $this->head->email, 'password' => 'a-long-password']),
        )->assertStatus(419);
    },
);
