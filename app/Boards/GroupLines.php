<?php

declare(strict_types=1);

namespace App\Boards;

use App\Layers\StoredRow;
use App\Models\Crew;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Texts;
use PinYard\Board\Grouping;
use PinYard\Board\Line;
use PinYard\Carto\Look;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Refused;

/** What groups are called, and how they are drawn: a category has one mark and one colour wherever it stands. */
final readonly class GroupLines
{
    public function __construct(private BoardSources $sources)
    {
    }

    /**
     * @param  list<string|null>  $codes  those that were found
     * @return list<Line>
     */
    public function of(int $layer, Grouping $by, array $codes): array
    {
        $found = array_values(array_unique(array_filter($codes, static fn (?string $c): bool => $c !== null)));
        $field = $by->field;
        $lines = match (true) {
            $by->areas !== null => $this->areas($by->areas),
            $by->isTime() => self::plain($found),
            $by->key === Grouping::CREW => self::named(
                Crew::query()->where('programme_id', $this->sources->board->programme_id)->pluck('name', 'id')->all(),
                $found,
            ),
            $by->key === Grouping::PERSON => self::named(
                User::query()->whereIn('id', $found)->pluck('name', 'id')->all(),
                $found,
            ),
            $field?->valueKind() === FieldKind::YesNo => [
                new Line('1', Texts::of('value.yes')),
                new Line('0', Texts::of('value.no')),
            ],
            $field?->valueKind()->isChoice() === true => $this->choices($layer, $field, $found),
            default => self::plain($found),
        };

        return in_array(null, $codes, true) ? [...$lines, new Line(null, Texts::of('group.none'))] : $lines;
    }

    /**
     * @param  list<string>  $codes
     * @return list<Line>
     */
    private static function plain(array $codes): array
    {
        sort($codes, SORT_NATURAL | SORT_FLAG_CASE);

        return array_map(static fn (string $c): Line => new Line($c, $c), $codes);
    }

    /**
     * @param  array<array-key, string>  $names  by number
     * @param  list<string>  $codes
     * @return list<Line>
     */
    private static function named(array $names, array $codes): array
    {
        foreach ($codes as $code) {
            $names[$code] ??= Texts::of('group.left');
        }
        natcasesort($names);

        return array_map(
            static fn (int|string $number, string $name): Line => new Line((string) $number, $name),
            array_keys($names),
            $names,
        );
    }

    /**
     * @param  list<string>  $found
     * @return list<Line>
     */
    private function choices(int $layer, Field $field, array $found): array
    {
        $drawn = [];
        if ($field->kind === FieldKind::OneChoice) {
            foreach (Look::suggest($this->sources->layer($layer)->design(), $field->key)->legend([]) as $line) {
                if (is_string($line['code'] ?? null)) {
                    $drawn[$line['code']] = array_intersect_key($line, ['head' => 1, 'colour' => 1]);
                }
            }
        }
        $lines = [];
        foreach ($field->choices as $choice) {
            if (! $choice->retired || in_array($choice->code, $found, true)) {
                $lines[] = new Line($choice->code, $choice->label, $drawn[$choice->code] ?? []);
            }
        }
        // A choice that left the list is still in records of before.
        foreach (array_diff($found, array_column($field->choices, 'code')) as $code) {
            $lines[] = new Line($code, $code);
        }

        return $lines;
    }

    /** @return list<Line> */
    private function areas(int $number): array
    {
        $layer = $this->sources->layer($number);
        $visible = VisibleRecords::of($this->sources->viewer, $layer);
        $name = $layer->design()->nameField();
        if ($visible->seesNothing()) {
            throw Refused::because('tile_hidden', 'by');
        }
        $visible = $this->sources->viewer->isLink()
            ? $visible->showing($name === null ? [] : [$name->key])
            : $visible;
        $lines = [];
        foreach ($visible->rows()->get() as $row) {
            $called = StoredRow::name($visible->design(), $row) ?? Texts::of('record.unnamed');
            $lines[] = new Line($this->sources->viewer->idOf((string) $row->id), $called);
        }
        usort($lines, static fn (Line $a, Line $b): int => strnatcasecmp((string) $a->label, (string) $b->label));

        return $lines;
    }
}
