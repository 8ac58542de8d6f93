<?php

declare(strict_types=1);

use App\Export\Spreadsheets;
use Illuminate\Http\UploadedFile;

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->nests = $this->layer($this->programme);
    $this->actingAs($this->mara);
    $this->read = fn (string $name, string $bytes) => $this->post(
        '/api/v1/designs/read',
        ['file' => UploadedFile::fake()->createWithContent($name, $bytes)],
        ['Accept' => 'application/json'],
    );
});

it('is saved as a spreadsheet and read back as the same designs', function (): void {
    $this->layer($this->programme, [
        'title' => 'Nest visits',
        'visits_of' => 'Nests',
        'fields' => [['key' => 'calc', 'label' => 'Calc', 'kind' => 'calculated', 'formula' => '1 + 1']],
    ]);
    $file = $this->get("/api/v1/programmes/{$this->programme->id}/designs.xlsx")
        ->assertOk()
        ->baseResponse->getFile()
        ->getPathname();
    $told = ($this->read)('sheet.xlsx', (string) file_get_contents($file))->assertOk()->json();
    expect(array_column($told['designs'], 'title'))
        ->toBe(['Nests', 'Nest visits'])
        ->and($told['notes'])
        ->toBe([]);
    $other = $this->programme($this->mara);
    foreach ($told['designs'] as $design) {
        $made = $this->postJson("/api/v1/programmes/{$other->id}/layers", $design)
            ->assertCreated()
            ->json('design');
        $was = $this->programme->layers()->where('title', $design['title'])->first()->design()->toArray();
        expect($made['fields'])
            ->toBe($was['fields'])
            ->and($made['visits_of'] ?? null)
            ->toBe($was['visits_of'] ?? null);
    }
    @unlink($file);
});

// Source: LibreOffice and Excel save CSV with semicolons where the comma is the decimal sign, with a byte order mark
// (common practice, no source); RFC 4180 for quotes.
it('reads CSV with commas, semicolons or tabs, with a byte order mark', function (string $csv): void {
    $told = ($this->read)('Trees.csv', $csv)->assertOk()->json('designs.0');
    expect($told['title'])
        ->toBe('Trees')
        ->and(array_column($told['fields'], 'label'))
        ->toBe(['Girth', 'Kind, of tree'])
        ->and(array_column($told['fields'], 'kind'))
        ->toBe(['decimal', 'one_choice']);
})->with([
    ["Field,Kind,Choices\r\nGirth,decimal,\r\n\"Kind, of tree\",one choice,Oak; Ash\r\n"],
    ["\u{FEFF}Field;Kind;Choices\nGirth;number;\n\"Kind, of tree\";list;\"Oak\nAsh\"\n"],
    ["Field\tKind\tChoices\nGirth\tfloat\t\nKind, of tree\tdropdown\tOak|Ash\n"],
]);

it('is refused with the way out', function (string $name, string $bytes, string $code): void {
    ($this->read)($name, $bytes)->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
})->with([
    ['old.xls', "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1", 'sheet_format'],
    ['latin.csv', "Field,Kind\nK\xE4se,text\n", 'sheet_format'],
    ['torn.xlsx', "PK\x03\x04".str_repeat("\0", 40), 'sheet_unreadable'],
    ['empty.csv', '', 'sheet_no_fields'],
    ['photo.csv', "name,colour\na,b\n", 'sheet_no_fields'],
]);

it(
    'is refused without a file',
    fn () => $this->postJson('/api/v1/designs/read', [])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'sheet_file'),
);

it('keeps a formula a text, so that no spreadsheet carries it out', function (): void {
    $file = Spreadsheets::write(['A' => [['Head'], ['=1+1'], [null], [2.5]]]);
    expect(Spreadsheets::read($file, 'a.xlsx'))->toBe(['A' => [['Head'], [' =1+1'], [], ['2.5']]]);
    unlink($file);
});
