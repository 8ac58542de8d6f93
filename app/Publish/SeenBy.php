<?php

declare(strict_types=1);

namespace App\Publish;

use App\Audit\Audit;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\Slice;
use App\Models\User;
use App\Plan\ShownThings;
use App\Records\Acceptance;
use App\Records\BringToldPlaces;
use App\Rights\AudienceName;
use App\Rights\AudienceRules;
use App\Rights\WorkSeen;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Rule;
use PinYard\Design\Field;
use PinYard\Geo\GeometryKind;
use PinYard\Overtaken;
use PinYard\Refused;

/** Who sees what of a programme, as its coordinator is told. */
final class SeenBy
{
    /**
     * @return array{audiences: list<array<string, mixed>>, layers: list<array<string, mixed>>,
     *     things: list<array<string, mixed>>, work: array<string, list<string>>}
     */
    public static function of(Programme $programme, User $viewer): array
    {
        $layers = ShownThings::layers($programme);
        $things = array_map(
            static fn (array $thing): array => array_diff_key($thing, ['layers' => true]),
            ShownThings::of($programme, $viewer, $layers),
        );
        $audiences = Audiences::of($programme, $layers);
        $names = array_column($audiences, 'name');

        return [
            'audiences' => $audiences,
            'layers' => array_values(
                $layers->map(static fn (Layer $l): array => self::layer($l, $names, $viewer))->all(),
            ),
            'things' => $things,
            'work' => array_replace(array_fill_keys(WorkSeen::ALL, []), $programme->work_seen ?? []),
        ];
    }

    /**
     * @param  list<string>  $audiences  names
     * @return array<string, mixed>
     */
    public static function layer(Layer $layer, array $audiences, User $viewer): array
    {
        $design = $layer->design();
        $tell = $design->rules->placeReaders();
        $areas = self::areas($layer);
        $beyond = array_map(static fn (array $a): array => $design->rules->placeReaders($a['title']), $areas);

        return [
            'id' => $layer->id,
            'title' => $layer->title,
            'points' => $design->geometry === GeometryKind::Point,
            'areas' => $areas,
            'photos' => $design->photos->allowed,
            'visits_of' => $layer->visits_of,
            'to_check' => Acceptance::left($viewer, $layer),
            'fields' => array_map(
                static fn (Field $f): array => [
                    'key' => $f->key,
                    'label' => $f->label,
                    'tells_place' => in_array($f->key, $tell, true),
                    // Areas of which it tells in which one a record lies, and no more.
                    'tells_areas' => in_array($f->key, $tell, true)
                        ? array_column(array_filter(
                            $areas,
                            static fn (int $i): bool => ! in_array($f->key, $beyond[$i], true),
                            ARRAY_FILTER_USE_KEY,
                        ), 'id')
                        : [],
                ],
                $design->valueFields(),
            ),
            'slices' => $layer->slices->map(
                static fn (Slice $s): array => ['id' => $s->id, 'name' => $s->name],
            )->values()->all(),
            'rules' => (object) array_combine(
                $audiences,
                array_map(static function (string $name) use ($layer): array {
                    $audience = AudienceName::named($name, $layer->programme) ?? AudienceName::link();
                    $rule = AudienceRules::rule($layer, $audience);

                    return $rule->toArray() + [
                        'said' => AudienceRules::said($layer, $audience) !== null,
                        // A slice that went shows nothing rather than all.
                        'lost' => $rule->slice !== null && $layer->slices->find($rule->slice) === null,
                    ];
                }, $audiences),
            ),
        ];
    }

    /** @return list<array{id: int, title: string}> layers whose areas can stand for the places in them */
    public static function areas(Layer $layer): array
    {
        $areas = [];
        foreach (Layer::areasOf($layer->programme) as $one) {
            if ($one->id !== $layer->id) {
                $areas[] = ['id' => $one->id, 'title' => $one->title];
            }
        }

        return $areas;
    }

    /**
     * @param  mixed  $in  the rule; null: what goes without saying
     * @param  mixed  $was  the rule that it was made from; null: whatever it was
     *
     * @throws Refused
     * @throws Overtaken where it is another by now
     */
    public static function save(Layer $layer, AudienceName $audience, mixed $in, mixed $was): void
    {
        $slices = [];
        foreach ($layer->slices as $slice) {
            try {
                $slices[$slice->id] = $layer->filter($slice->filter);
            } catch (Refused) {
                // One that the design does not allow any more can't be chosen.
            }
        }
        $rule = $in === null ? null : Rule::read(
            $in,
            $layer->design(),
            $slices,
            array_column(self::areas($layer), 'id'),
            $audience->goesOut(),
            $audience->name === AudienceName::MAKERS,
        );
        DB::transaction(static function () use ($layer, $audience, $rule, $was): void {
            $now = Layer::query()->lockForUpdate()->findOrFail($layer->id);
            // In whatever order its parts stand.
            $stands = AudienceRules::rule($now, $audience)->toArray();
            if ($was !== null && (! is_array($was) || $stands != array_intersect_key($was, $stands))) {
                throw Overtaken::because('audience_stale', 'was', null, ['layer' => $now->title]);
            }
            $rules = $now->seen_by ?? [];
            unset($rules[$audience->name]);
            $now->update([
                'seen_by' => $rule === null ? $rules : [$audience->name => $rule->toStored()] + $rules,
            ]);
            $becomes = AudienceRules::rule($now, $audience);
            Audit::note($now->programme_id, 'rule', [
                'layer' => $now->title,
                'audience' => $audience->title(),
                'kind' => $audience->kind(),
                'was' => (string) json_encode($stands),
                'rows' => $rule === null ? 'unsaid' : $becomes->toArray()['rows'],
                'place' => $becomes->place->value,
                'accepted' => $becomes->accepted ? 'yes' : 'no',
                'metres' => $becomes->blur?->metres,
                'areas' => array_column(self::areas($now), 'title', 'id')[$becomes->areas ?? 0] ?? null,
                'fields' => $becomes->fields === null ? -1 : count($becomes->fields),
                'photos' => $becomes->photos ? 'yes' : 'no',
                'least' => $becomes->least ?? 0,
            ]);
        });
        // Whoever looks would do it, and wait for it.
        BringToldPlaces::dispatch($layer->id);
    }

    /**
     * Tells an audience of all people at work, or of no more than what is theirs.
     *
     * @throws Refused
     */
    public static function sayWork(Programme $programme, AudienceName $audience, mixed $what, mixed $told): void
    {
        if (WorkSeen::say($programme, $audience, $what, $told)) {
            Audit::note($programme->id, 'work_seen', [
                'what' => (string) $what,
                'told' => $told === true ? 'yes' : 'no',
                'audience' => $audience->title(),
                'kind' => $audience->kind(),
            ]);
        }
    }
}
