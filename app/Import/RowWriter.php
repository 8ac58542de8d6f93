<?php

declare(strict_types=1);

namespace App\Import;

use App\Layers\StoredValue;
use App\Models\Import;
use App\Models\Layer;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Design\FieldKind;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;
use PinYard\Import\ImportSettings;
use PinYard\Refused;

/**
 * Turns the rows of an import into lines for LOAD DATA, and puts aside those that must wait. Runs in a process of its
 * own, so that reading and loading go on at the same time.
 */
final class RowWriter
{
    private const BATCH = 2_000;

    /** With more rows than these waiting something else is wrong than single rows, and none of them lands. */
    public const MOST_WAITING = 200_000;

    private const ESCAPED = ['\\' => '\\\\', "\t" => '\\t', "\n" => '\\n', "\r" => '\\r', "\0" => '\\0'];

    /** @var list<array<string, mixed>> */
    private array $waiting = [];

    public int $read = 0;

    public int $made = 0;

    public int $waits = 0;

    public int $skipped = 0;

    private readonly RowMapper $maker;

    private readonly RecordMatcher $matching;

    /** @var array<int, true> positions of values that are texts, and so may hold what must be escaped */
    private array $texts = [];

    /** @var list<FieldKind> */
    private array $kinds = [];

    private readonly ImportSettings $settings;

    public function __construct(private readonly Import $import, private readonly Layer $layer)
    {
        $this->settings = ImportSettings::of((array) $import->settings);
        $this->maker = RowMapper::for($import, $layer->design());
        $this->matching = new RecordMatcher($layer, $this->settings);
        foreach ($this->maker->filled as $i => $key) {
            $field = $layer->design()->field($key) ?? throw new \LogicException("no field $key");
            $this->kinds[] = $field->valueKind();
            if ($field->valueKind()->isText()) {
                $this->texts[$i] = true;
            }
        }
    }

    /** Names of the columns of a line, as LOAD DATA wants them. */
    public static function columns(Layer $layer, RowMapper $maker): string
    {
        return implode(', ', [
            '@id',
            'change_number',
            'lon',
            'lat',
            'z',
            ...$layer->design()->geometry !== GeometryKind::Point ? ['@shape', 'length_m', 'area_m2'] : [],
            ...array_map(static fn (string $key): string => "`{$layer->columnOf($key)}`", $maker->filled),
        ]);
    }

    /**
     * @param  resource  $out
     * @return array<string, mixed> counts
     */
    public function write($out, int $changeNumber): array
    {
        $table = new ImportRows($this->import);
        $batch = [];
        foreach ($table->rows($this->settings->headRow) as $number => $row) {
            $batch[$number] = $row;
            if (count($batch) === self::BATCH) {
                $this->batch($batch, $out, $changeNumber);
                $batch = [];
            }
        }
        $this->batch($batch, $out, $changeNumber);
        $this->flush();

        return ['read' => $this->read, 'made' => $this->made, 'waiting' => $this->waits, 'skipped' => $this->skipped] +
            $this->maker->corrections;
    }

    /**
     * @param  array<int, array{list<string>, string|null}>  $batch
     * @param  resource  $out
     */
    private function batch(array $batch, $out, int $changeNumber): void
    {
        if ($batch === []) {
            return;
        }
        if ($this->import->wantsStop()) {
            throw new \RuntimeException('stopped');
        }
        $this->read += count($batch);
        if ($this->settings->mode === 'update') {
            [$known, $unclear] = $this->matching->next($batch);
            // Those that wait for a person already wait (UpdateRecords); a key that comes twice adds no second record
            // either.
            $left =
                $known +
                ($this->settings->conflicts === 'take'
                    ? array_filter($unclear, static fn (\PinYard\Problem $p): bool => $p->code === 'intake_key_twice')
                    : $unclear);
            $this->skipped += count($left);
            $batch = array_diff_key($batch, $left);
        }
        $prefix = bin2hex((string) $this->import->prefix);
        $numbers = array_keys($batch);
        $text = '';
        foreach ($this->maker->make(array_values($batch)) as $i => [$values, $at, $problems]) {
            $number = $numbers[$i];
            if ($problems !== [] || $at->place === null) {
                $this->wait($number, $batch[$number], $problems, $at->candidates);

                continue;
            }
            $place = $at->place instanceof Position ? $at->place : $at->place->place;
            $text .=
                $prefix.
                sprintf('%012x', $number).
                "\t".
                ($changeNumber + ++$this->made).
                "\t$place->lon\t$place->lat\t".
                ZOrder::of($place);
            if (! $at->place instanceof Position) {
                $text .=
                    "\t".
                    bin2hex(Wkb::column($at->place)).
                    "\t".
                    ($at->place->length ?? '\\N').
                    "\t".
                    ($at->place->area ?? '\\N');
            }
            foreach ($values as $j => $value) {
                if ($value === null) {
                    $text .= "\t\\N";
                } elseif (isset($this->texts[$j])) {
                    $text .= "\t".strtr((string) $value, self::ESCAPED);
                } else {
                    $text .=
                        is_int($value) || is_float($value)
                            ? "\t$value"
                            : "\t".StoredValue::toColumn($this->kinds[$j], $value);
                }
            }
            $text .= "\n";
        }
        fwrite($out, $text);
        $this->import->progress($this->read);
    }

    /**
     * @param  array{list<string>, string|null}  $row
     * @param  list<\PinYard\Problem>  $problems
     * @param  list<array<string, mixed>>  $candidates
     */
    private function wait(int $number, array $row, array $problems, array $candidates): void
    {
        if (++$this->waits > self::MOST_WAITING) {
            throw Refused::because('intake_most_wait', 'file', null, ['most' => self::MOST_WAITING]);
        }
        $this->waiting[] = [
            'import_id' => $this->import->id,
            'row' => $number,
            'cells' => json_encode(
                ['cells' => array_map(mb_scrub(...), $row[0]), 'wkt' => $row[1]],
                JSON_UNESCAPED_UNICODE,
            ),
            'problems' => json_encode(
                Texts::problems($problems),
                JSON_UNESCAPED_UNICODE | JSON_PARTIAL_OUTPUT_ON_ERROR,
            ),
            'place' => $candidates === [] ? null : json_encode(['candidates' => $candidates], JSON_UNESCAPED_UNICODE),
        ];
        if (count($this->waiting) >= 500) {
            $this->flush();
        }
    }

    private function flush(): void
    {
        if ($this->waiting !== []) {
            DB::table('import_rows')->insert($this->waiting);
            $this->waiting = [];
        }
    }
}
