<?php

declare(strict_types=1);

use PinYard\People\PastedPeople;

/* A pasted list of people, as mail programs (RFC 5322, section 3.4) and spreadsheets write them. */

it('reads a line however name and address stand in it', function (string $line, string $name, string $email): void {
    [$person] = PastedPeople::read($line);
    expect($person)->toMatchArray(['name' => $name, 'email' => $email, 'problem' => null, 'line' => 1]);
})->with([
    ['Ann Lee <ann@example.org>', 'Ann Lee', 'ann@example.org'],
    ['"Lee, Ann" <Ann@Example.org>,', 'Lee, Ann', 'ann@example.org'],
    ['ann.lee@example.org', 'Ann Lee', 'ann.lee@example.org'],
    ["Ann Lee\tann@example.org", 'Ann Lee', 'ann@example.org'],
    ["ann@example.org;Ann;Lee\r", 'Ann Lee', 'ann@example.org'],
    ['Ann Lee ann@example.org', 'Ann Lee', 'ann@example.org'],
    ["\u{FEFF}Ødegård Åse,\u{00A0}aase@example.org", 'Ødegård Åse', 'aase@example.org'],
    ['王小明 <wang@example.org>', '王小明', 'wang@example.org'],
    ['mailto:ann@example.org', 'Ann', 'ann@example.org'],
]);

it('says of each line what is wrong with it, and leaves out those that are empty', function (): void {
    $read = PastedPeople::read("\n\nBo Dahl\n  \nann@example.org\nAnn <ANN@example.org>\nx@y\n");
    expect(array_map(static fn (array $p): array => [$p['line'], $p['problem']?->code], $read))->toBe([
        [3, 'people_no_address'], [5, null], [6, 'people_twice'], [7, 'people_no_address'],
    ])->and(PastedPeople::read(" \n\t"))->toBe([]);
});

it('takes a very long line and one that is no text', function (): void {
    expect(PastedPeople::read(str_repeat('a', 100_000))[0]['problem']?->code)->toBe('people_no_address')
        ->and(PastedPeople::read("\xff\xfe")[0]['problem']?->code ?? 'people_no_address')->toBe('people_no_address');
});
