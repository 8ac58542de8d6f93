<?php

declare(strict_types=1);

use PinYard\Record\RecordId;

// Source: RFC 9562, section 5.7 (layout of version 7) and appendix A.6 (the example value).
describe('a record id', function (): void {
    it('takes the example of RFC 9562 and reads its time', function (): void {
        $id = RecordId::of('017F22E2-79B0-7CC3-98C4-DC0C0C07398F');
        expect($id->text)
            ->toBe('017f22e2-79b0-7cc3-98c4-dc0c0c07398f')
            ->and(hexdec(substr(bin2hex($id->bytes()), 0, 12)))
            ->toBe(1645557742000);
    });

    it('has version 7 and the variant of RFC 9562, 16 bytes, and today\'s milliseconds', function (): void {
        $before = (int) floor(microtime(true) * 1000);
        $bytes = RecordId::make()->bytes();
        $after = (int) ceil(microtime(true) * 1000);
        expect(strlen($bytes))
            ->toBe(16)
            ->and(ord($bytes[6]) >> 4)
            ->toBe(7)
            ->and(ord($bytes[8]) >> 6)
            ->toBe(0b10)
            ->and(hexdec(bin2hex(substr($bytes, 0, 6))))
            ->toBeGreaterThanOrEqual($before - 5)
            ->toBeLessThanOrEqual($after + 5);
    });

    it('sorts in the order of making, as text and as bytes', function (): void {
        $ids = array_map(fn (): string => RecordId::make()->text, range(1, 500));
        $sorted = $ids;
        sort($sorted);
        expect($sorted)->toBe($ids)->and(array_unique($ids))->toHaveCount(500);
    });

    it('goes to bytes and back', function (): void {
        $id = RecordId::make();
        expect(RecordId::fromBytes($id->bytes())->text)->toBe($id->text);
    });

    it('refuses other versions and other text', function (mixed $text): void {
        expect(refusals(fn () => RecordId::of($text)))->toBe(['id_shape']);
    })->with([
        ['c232ab00-9414-4ec8-b3c9-f6bdeced846f'],
        ['017f22e2-79b0-7cc3-18c4-dc0c0c07398f'],
        ['017f22e279b07cc398c4dc0c0c07398f'],
        [''],
        [null],
        [12],
        [['x']],
        ["017f22e2-79b0-7cc3-98c4-dc0c0c07398f\n"],
    ]);
});
