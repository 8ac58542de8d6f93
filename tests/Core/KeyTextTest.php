<?php

declare(strict_types=1);

use PinYard\Design\KeyText;

it('makes keys from labels as the desk does', function (): void {
    foreach (vectors('keys')['cases'] as [$label, $key]) {
        expect(KeyText::of($label, []))->toBe($key, $label);
    }
    expect(KeyText::of('Côde', ['code']))->toBe('code_2');
});

it('turns what is written in other scripts into Latin letters', function (): void {
    // By ICU's transliteration (Unicode CLDR); the exact letters may change with its version.
    foreach (['名前', 'الاسم', 'नाम'] as $label) {
        expect(KeyText::of($label, []))->toMatch('/^[a-z][a-z0-9_]+$/')->not->toBe('field');
    }
});
