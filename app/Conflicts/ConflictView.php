<?php

declare(strict_types=1);

namespace App\Conflicts;

use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Conflict;
use App\Models\User;
use App\Records\RecordView;
use App\Records\VisibleRecords;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Design\ValueRule;
use PinYard\Record\RecordId;
use stdClass;

/** A dispute as Check shows it: what the phone brought beside what the record is, who did which and when. */
final class ConflictView
{
    /**
     * @param  iterable<Conflict>  $disputes
     * @return list<array<string, mixed>>
     */
    public static function of(User $viewer, iterable $disputes): array
    {
        $views = [];
        foreach ($disputes as $dispute) {
            $layer = $dispute->layer;
            $design = $layer->design();
            $then = $layer->design(max(1, min($layer->design_version, (int) ($dispute->operation['design'] ?? 1))));
            $row = VisibleRecords::for($viewer, $layer)->withDeleted()->where('id', $dispute->record_id)->first();
            $op = $dispute->operation;
            $other = self::theirs($dispute);
            // What is calculated is nobody's doing, though a phone may send it along.
            $values = array_filter(
                is_array($op['values'] ?? null) ? $op['values'] : [],
                static fn (string|int $key): bool => $then->field((string) $key)?->kind !== FieldKind::Calculated,
                ARRAY_FILTER_USE_KEY,
            );
            $was = is_array($op['was'] ?? null) ? $op['was'] : [];
            $views[] = [
                'id' => $dispute->id,
                'kind' => $dispute->kind,
                'layer' => $layer->id,
                'layer_title' => $layer->title,
                'record' => $row === null
                        ? null
                        : [
                            ...RecordView::present($layer, $design, [$row], $viewer)[0],
                            'deleted' => (bool) $row->deleted,
                        ],
                'record_id' => RecordId::fromBytes($dispute->record_id)->text,
                'name' => $row === null
                        ? self::shown(
                            $then,
                            (string) $then->nameField()?->key,
                            $values[$then->nameField()->key ?? ''] ?? null,
                        )
                        : StoredRow::name($design, $row),
                'does' => $op['kind'] ?? 'add',
                'by' => User::query()->find($dispute->user_id)?->name,
                'captured_at' => $dispute->captured_at->toIso8601ZuluString(),
                'received_at' => $dispute->received_at->toIso8601ZuluString(),
                'theirs_by' => $other?->name,
                'theirs_at' => $other === null ? null : StoredRow::instant($other->captured_at),
                'geometry' => is_array($op['geometry'] ?? null) ? $op['geometry'] : null,
                'values' => array_values(
                    array_map(
                        static fn (string $key, mixed $value): array => [
                            'key' => $key,
                            'label' => $then->field($key)->label ?? $key,
                            'value' => self::shown($then, $key, $value),
                            'was' => self::shown($then, $key, $was[$key] ?? null),
                        ],
                        array_map(strval(...), array_keys($values)),
                        $values,
                    ),
                ),
                'clashes' => array_map(
                    static fn (array $c): array => [
                        'key' => $c['key'],
                        'label' => $design->field($c['key'])->label ?? null,
                        'stands' => $c['stands'],
                        ...str_starts_with($c['key'], '@')
                            ? ['was' => $c['was'], 'theirs' => $c['theirs'], 'mine' => $c['mine']]
                            : array_map(static fn (mixed $v): ?string => self::shown($design, $c['key'], $v), [
                                'was' => $c['was'],
                                'theirs' => $c['theirs'],
                                'mine' => $c['mine'],
                            ]),
                    ],
                    $dispute->clashes ?? [],
                ),
                'reasons' => Texts::keptProblems($dispute->reasons ?? []),
                'photos' => DB::table('attachments')
                    ->where('layer_id', $layer->id)
                    ->where('record_id', $dispute->record_id)
                    ->where('state', '!=', 'removed')
                    ->orderBy('position')
                    ->get(['id', 'state', 'name', 'type', 'slot'])
                    ->map(
                        static fn (stdClass $a): array => [
                            'id' => RecordId::fromBytes($a->id)->text,
                            'state' => $a->state,
                            'name' => $a->name,
                            'type' => $a->type,
                            'slot' => $a->slot,
                        ],
                    )
                    ->all(),
                'settled_at' => $dispute->settled_at?->toIso8601ZuluString(),
                'settled_by' => $dispute->settled_by === null ? null : User::query()->find($dispute->settled_by)?->name,
                'settlement' => $dispute->settlement,
            ];
        }

        return $views;
    }

    /** Who made what the record had when the dispute came, and when. */
    private static function theirs(Conflict $dispute): ?stdClass
    {
        return $dispute->kind === 'held'
            ? null
            : DB::table('record_history')
                ->leftJoin('users', 'users.id', '=', 'record_history.user_id')
                ->where('layer_id', $dispute->layer_id)
                ->where('record_id', $dispute->record_id)
                ->where('version', '>', (int) ($dispute->operation['base'] ?? 0))
                ->where(static fn ($q) => $q->whereNull('op')->orWhere('op', '!=', $dispute->op))
                ->where('received_at', '<=', $dispute->received_at->format('Y-m-d H:i:s.v'))
                ->orderByDesc('version')
                ->first(['users.name', 'captured_at']);
    }

    private static function shown(LayerDesign $design, string $key, mixed $value): ?string
    {
        $field = $design->field($key);
        if (
            $field === null ||
            $value === null ||
            ! ValueRule::isOfKind($field, $value) ||
            $field->kind === FieldKind::Heading
        ) {
            return is_scalar($value) ? (string) $value : null;
        }
        assert(is_scalar($value) || is_array($value));
        /** @var string|int|float|bool|list<string> $value */

        return StoredValue::shown($field, StoredValue::toColumn($field->valueKind(), $value));
    }
}
