<?php

declare(strict_types=1);

use PinYard\People\Totp;

/* RFC 6238, appendix B (SHA-1), and RFC 4226, appendix D: the same secret, `12345678901234567890`. */

it('is what RFC 6238 says', function (int $time, string $code): void {
    expect(Totp::code('12345678901234567890', intdiv($time, Totp::STEP), 8))->toBe($code);
})->with([
    [59, '94287082'], [1_111_111_109, '07081804'], [1_111_111_111, '14050471'], [1_234_567_890, '89005924'],
    [2_000_000_000, '69279037'], [20_000_000_000, '65353130'],
]);

it('is what RFC 4226 says of counters', function (): void {
    expect(array_map(static fn (int $i): string => Totp::code('12345678901234567890', $i), range(0, 9)))->toBe([
        '755224', '287082', '359152', '969429', '338314', '254676', '287922', '162583', '399871', '520489',
    ]);
});

it('writes Base32 as RFC 4648 (section 10) does, without padding', function (string $bytes, string $text): void {
    expect(Totp::base32($bytes))->toBe($text);
})->with([['f', 'MY'], ['fo', 'MZXQ'], ['foo', 'MZXW6'], ['foob', 'MZXW6YQ'], ['fooba', 'MZXW6YTB'],
    ['foobar', 'MZXW6YTBOI']]);

it('takes a code of a step to either side, each once, written with spaces too', function (): void {
    $secret = Totp::base32('12345678901234567890');
    $code = static fn (int $time): string => Totp::code('12345678901234567890', intdiv($time, 30));
    $now = 1_234_567_890;
    expect(Totp::stepOf($secret, $code($now), $now, 0))->toBe(intdiv($now, 30))
        ->and(Totp::stepOf($secret, $code($now - 30), $now, 0))->not->toBeNull()
        ->and(Totp::stepOf($secret, $code($now + 30), $now, 0))->not->toBeNull()
        ->and(Totp::stepOf($secret, $code($now - 90), $now, 0))->toBeNull()
        ->and(Totp::stepOf($secret, $code($now), $now, intdiv($now, 30)))->toBeNull()
        ->and(Totp::stepOf($secret, substr($code($now), 0, 3).' '.substr($code($now), 3), $now, 0))->not->toBeNull()
        ->and(Totp::stepOf($secret, '', $now, 0))->toBeNull()
        ->and(strlen(Totp::secret()))->toBe(32)
        ->and(Totp::secret())->not->toBe(Totp::secret());
});
