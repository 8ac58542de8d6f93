<?php

declare(strict_types=1);

use PinYard\Sync\PhoneClock;

/*
 * Which correction of a phone's clock counts: the cases are worked out by hand, around a noon at which the server
 * hears of them.
 */
beforeEach(function (): void {
    $this->now = new DateTimeImmutable('2026-11-26T12:00:00Z');
    $this->at = fn (string $change): DateTimeImmutable => $this->now->modify($change);
    // Seconds by which the clock was behind when it showed `captured`, said to be off by `known` then.
    $this->behind = fn (string $sent, string $captured, int $known, ?string $heard): int => PhoneClock::atSending(
        ($this->at)($sent)->format('Y-m-d\TH:i:s\Z'),
        $this->now,
    )->behindAt(($this->at)($captured), $known, $heard === null ? null : ($this->at)($heard));
});

it('finds by how much the clock was off', function (
    string $sent,
    string $captured,
    int $known,
    ?string $heard,
    int $behind,
): void {
    expect(($this->behind)($sent, $captured, $known, $heard))->toBe($behind);
})->with([
    'right all the time' => ['now', '-1 hour', 0, '-2 hours', 0],
    'off by less than a network may take' => ['-40 seconds', '-1 hour', 0, '-2 hours', 0],
    'an hour behind, and known' => ['-1 hour', '-2 hours', 3_600, '-3 hours', 3_600],
    'a day behind, and never known' => ['-1 day', '-25 hours', 0, '-2 hours', 86_400],
    'a day ahead, and never known' => ['+1 day', '+23 hours', 0, '-2 hours', -86_400],
    'set ahead after the doing: what was known then counts' => ['+5 hours', '-1 hour', 0, '-2 hours', 0],
    'put right after the doing: what was known then counts' => ['now', '-25 hours', 86_400, '-2 hours', 86_400],
    'set between the last round and the doing' => ['-5 hours', '-6 hours', 0, '-2 hours', 18_000],
    'never heard of the server, and right' => ['now', '-3 days', 0, null, 0],
    'set twice, ends up in the future: now is the nearest' => ['now', '+9 hours', 0, '-2 hours', -32_400],
    'set twice, ends up before the last round: that is the nearest' => ['now', '-9 hours', 0, '-2 hours', 25_200],
]);

it('says nothing of a clock whose phone does not say when it sends', function (mixed $sent): void {
    expect(PhoneClock::atSending($sent, $this->now))->toBeNull();
})->with([
    'nothing' => [null],
    'a number' => [1_795_694_400],
    'a list' => [['2026-11-26T12:00:00Z']],
    'words' => ['noon'],
    'no zone' => ['2026-11-26T12:00:00'],
    'a line end behind it' => ["2026-11-26T12:00:00Z\n"],
    'a month that there is not' => ['2026-13-26T12:00:00Z'],
]);
