<?php

declare(strict_types=1);

namespace App\Slices;

use App\Layers\StoredRow;
use App\Models\Crew;
use App\Models\Layer;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Texts;
use PinYard\Design\Choice;
use PinYard\Filter\Subject;
use PinYard\Filter\Test;
use PinYard\Record\RecordId;

/** What a rule on a layer can ask for, as a builder of rules shows it. */
final class Askable
{
    private const MOST_AREAS = 1_000;

    /** @return array<string, mixed> */
    public static function of(Layer $layer, User $person): array
    {
        $subjects = Subject::all($layer->design(), $layer->visitsLayer?->design());

        return [
            'subjects' => array_map(self::subject(...), $subjects),
            'crews' => Crew::query()->where('programme_id', $layer->programme_id)->orderBy('name')->get(['id', 'name'])
                ->map(static fn (Crew $c): array => ['id' => $c->id, 'name' => $c->name])->all(),
            'areas' => self::areas($layer, $person),
        ];
    }

    /** @return array<string, mixed> */
    private static function subject(Subject $subject): array
    {
        $field = $subject->field;

        return [
            'field' => $subject->key,
            'of' => $subject->ofVisit ? 'visit' : 'record',
            'label' => $field->label ?? Texts::of('subject.'.ltrim($subject->key, '@')),
            'kind' => $field?->valueKind()->value,
            'unit' => $field?->unit,
            'tests' => array_map(static fn (Test $t): string => $t->value, $subject->tests),
            'choices' => array_map(
                static fn (Choice $c): array => ['code' => $c->code, 'label' => $c->label],
                $field->choices ?? [],
            ),
        ];
    }

    /** @return list<array{layer: int, title: string, areas: list<array{record: string, name: string}>}> */
    private static function areas(Layer $layer, User $person): array
    {
        $out = [];
        foreach (Layer::areasOf($layer->programme) as $areas) {
            $rows = [];
            $design = $areas->design();
            foreach (VisibleRecords::for($person, $areas)->rows()->limit(self::MOST_AREAS)->get() as $row) {
                $rows[] = [
                    'record' => RecordId::fromBytes($row->id)->text,
                    'name' => StoredRow::name($design, $row) ?? Texts::of('record.unnamed'),
                ];
            }
            usort($rows, static fn (array $a, array $b): int => strnatcasecmp($a['name'], $b['name']));
            if ($rows !== []) {
                $out[] = ['layer' => $areas->id, 'title' => $areas->title, 'areas' => $rows];
            }
        }

        return $out;
    }
}
