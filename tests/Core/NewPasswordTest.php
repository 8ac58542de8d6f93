<?php

declare(strict_types=1);

use PinYard\People\NewPassword;

// Source: OWASP ASVS 4.0.3, 2.1.1, 2.1.2, 2.1.4 and 2.1.7; the words are made up.
beforeEach(function (): void {
    $this->problem = fn (string $password): ?string => NewPassword::problem(
        $password,
        static fn (string $word): bool => in_array($word, ['sunshine', 'sunshine-day', 'möwenschrei'], true),
        ['Mara Oduya', 'mara@example.test'],
    )?->code;
});

it('takes what is long and nobody tries', function (string $password): void {
    expect(($this->problem)($password))->toBeNull();
})->with([
    'words' => ['a crab is no spider'],
    'other scripts' => ['ночной прилив'],
    'figures behind a letter of one\'s own name' => ['a82930174651'],
    'figures behind three of them' => ['mar829301746'],
    'signs' => ['!?#$%&/()=-+'],
    'the longest' => [str_repeat('abcd', 50)],
]);

it('refuses what is short, too long, or tried by everybody', function (string $password, string $code): void {
    expect(($this->problem)($password))->toBe($code);
})->with([
    'eleven' => ['crab-crab-1', 'password_length'],
    'two hundred and one' => [str_repeat('abc', 67), 'password_length'],
    'none' => ['', 'password_length'],
    'a common one' => ['Sunshine-Day', 'password_common'],
    'with figures behind it' => ['sunshine2026', 'password_common'],
    'twice' => ['sunshinesunshine', 'password_common'],
    'in another script' => ['MÖWENSCHREI1', 'password_common'],
    'three characters' => ['abcabcabcabc', 'password_common'],
    'one\'s own name' => ['Mara Oduya!!', 'password_own'],
    'part of one\'s own address' => ['mara@example', 'password_own'],
]);
