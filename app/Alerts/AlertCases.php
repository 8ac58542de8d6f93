<?php

declare(strict_types=1);

namespace App\Alerts;

use App\Boards\Figures\BitFigures;
use App\Boards\Figures\EffortFigures;
use App\Boards\Figures\SqlFigures;
use App\Layers\StoredRow;
use App\Models\Layer;
use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\Models\Slice;
use App\Records\Bits\BitLayer;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use App\Texts;
use Carbon\Carbon;
use Illuminate\Database\Eloquent\Collection;
use PinYard\Alert\AlertRule;
use PinYard\Alert\MeasureRule;
use PinYard\Alert\SilenceRule;
use PinYard\Alert\SliceRule;
use PinYard\Board\Figure;
use PinYard\Board\Reading;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** What is so now of an alert's rule, for one viewer: the keys of its cases, and what is said of them. */
final class AlertCases
{
    /** So many records in a slice can be told apart. */
    public const MOST = 10_000;

    /** So many of them are named. */
    private const NAMED = 8;

    /** @var list<string> */
    public readonly array $keys;

    private ?Figure $figure = null;

    /** @var Collection<int, Member>|null */
    private ?Collection $silent = null;

    /**
     * @throws Refused where it cannot be worked out
     */
    public function __construct(
        private readonly AlertRule $rule,
        private readonly Programme $programme,
        private readonly Viewer $viewer,
    ) {
        $this->keys = match (true) {
            $rule instanceof SliceRule => $this->inSlice($rule),
            $rule instanceof MeasureRule => $this->passed($rule),
            $rule instanceof SilenceRule => $this->silent($rule),
            default => throw new \LogicException('a rule that nobody works out'),
        };
    }

    /** How it stands, for whoever makes the alert. */
    public function standing(): string
    {
        return match (true) {
            $this->rule instanceof MeasureRule => Texts::of('alert.stands.measure', [
                'value' => $this->shown($this->figure?->value),
                'none' => $this->figure?->value === null ? 1 : 0,
                'passed' => $this->keys === [] ? 0 : 1,
            ]),
            $this->rule instanceof SliceRule => Texts::of('alert.stands.slice', ['n' => count($this->keys)]),
            default => Texts::of('alert.stands.silence', [
                'n' => count($this->keys),
                'who' => $this->names($this->silentBy($this->keys)),
            ]),
        };
    }

    /**
     * What is said of cases that have begun.
     *
     * @param  list<string>  $keys
     * @return array{text: string, records: list<array{id: string, name: string|null}>, layer: int|null, path: string}
     */
    public function told(string $name, array $keys): array
    {
        $base = "/desk/p/{$this->programme->id}";
        if ($this->rule instanceof MeasureRule) {
            $slice = $this->rule->reading->slice;

            return [
                'text' => Texts::of('alert.told.measure', [
                    'name' => $name,
                    'value' => $this->shown($this->figure?->value),
                    'limit' => $this->shown($this->rule->value),
                    'passes' => $this->rule->above ? 'above' : 'below',
                ]),
                'records' => [],
                'layer' => $this->rule->reading->layer,
                'path' => "$base/check?layer={$this->rule->reading->layer}".($slice === null ? '' : "&slice=$slice"),
            ];
        }
        if ($this->rule instanceof SliceRule) {
            $records = $this->named($this->rule->layer, $keys);

            return [
                'text' => Texts::of('alert.told.slice', ['name' => $name, 'n' => count($keys)]),
                'records' => $records,
                'layer' => $this->rule->layer,
                'path' => "$base/check?layer={$this->rule->layer}&slice={$this->rule->slice}",
            ];
        }
        $silent = $this->silentBy($keys);

        return [
            'text' => Texts::of('alert.told.silence', [
                'name' => $name,
                'n' => count($keys),
                'who' => $this->names($silent),
                'hours' => $this->rule instanceof SilenceRule ? $this->rule->hours : 0,
            ]),
            'records' => [],
            'layer' => null,
            'path' => "$base/collect",
        ];
    }

    /** @return list<string> */
    private function inSlice(SliceRule $rule): array
    {
        $rows = $this->records(new Reading($rule->layer, $rule->slice))->rows();
        $ids = $rows->limit(self::MOST + 1)->pluck('id')->all();
        if (count($ids) > self::MOST) {
            throw Refused::because('alert_many', 'rule/slice', null, ['most' => self::MOST]);
        }

        return array_values(array_map(static fn (mixed $id): string => bin2hex((string) $id), $ids));
    }

    /** @return list<string> */
    private function passed(MeasureRule $rule): array
    {
        $asked = new SqlFigures(
            $this->records(...),
            $this->layer(...),
            new EffortFigures($this->programme, $this->viewer, [], static function (): void {
            }, $this->layer(...)),
        );
        $figures = new BitFigures($this->records(...), BitLayer::of(...), $asked);
        [$this->figure] = $figures->of($rule->reading, [$rule->measure]);

        return $rule->hasPassed($this->figure) ? ['passed'] : [];
    }

    /**
     * Crews, and who is in none: whoever does not coordinate is told of their own.
     *
     * @return list<string>
     */
    private function silent(SilenceRule $rule): array
    {
        $me = $this->viewer->person === null ? null : $this->programme->memberFor($this->viewer->person);
        $members = $this->programme->members()->with(['user', 'crew'])->where('role', Role::Crew->value)
            ->when($rule->crew !== null, static fn ($q) => $q->where('crew_id', $rule->crew))
            ->when($me?->role !== Role::Coordinator, static fn ($q) => $me?->crew_id === null
                ? $q->where('user_id', $me->user_id ?? 0)
                : $q->where('crew_id', $me->crew_id))
            ->get();
        if ($rule->onOutings) {
            $today = now($this->programme->time_zone)->toDateString();
            $out = $this->programme->outings()->where('starts_on', '<=', $today)->where('ends_on', '>=', $today)
                ->pluck('crew_id')->all();
            // An outing that names no crew is for all of them.
            $members = in_array(null, $out, true)
                ? $members
                : $members->filter(static fn (Member $m): bool => in_array($m->crew_id, $out, true));
        }
        $latest = [];
        foreach ($members as $member) {
            $heard = $member->last_heard_at ?? $member->created_at ?? now();
            $key = self::crewKey($member);
            $latest[$key] = isset($latest[$key]) && $latest[$key]->gte($heard) ? $latest[$key] : $heard;
        }
        $this->silent = $members;

        return array_keys(array_filter(
            $latest,
            static fn (Carbon $heard): bool => $rule->isSilent($heard->toDateTimeImmutable(), now()->toImmutable()),
        ));
    }

    private static function crewKey(Member $member): string
    {
        return $member->crew_id === null ? "person $member->user_id" : "crew $member->crew_id";
    }

    /**
     * @param  list<string>  $keys
     * @return list<string>
     */
    private function silentBy(array $keys): array
    {
        $names = [];
        foreach ($this->silent ?? [] as $member) {
            if (in_array(self::crewKey($member), $keys, true)) {
                $names[self::crewKey($member)] = $member->crew->name ?? $member->user->name;
            }
        }

        return array_values($names);
    }

    /** @param  list<string>  $names */
    private function names(array $names): string
    {
        return implode(', ', array_slice($names, 0, self::NAMED)).(count($names) > self::NAMED ? ' …' : '');
    }

    private function shown(float|string|null $value): string
    {
        $format = new \NumberFormatter(Texts::spoken(), \NumberFormatter::DECIMAL, '');

        return is_float($value)
            ? $format->format(round($value, 2)) ?: (string) $value
            : (string) $value;
    }

    /**
     * @param  list<string>  $keys
     * @return list<array{id: string, name: string|null}>
     */
    private function named(int $number, array $keys): array
    {
        $layer = $this->layer($number);
        $visible = VisibleRecords::of($this->viewer, $layer);
        $named = [];
        // The latest of them, as they would be looked at.
        $rows = $visible->rows()->whereIn('id', array_map(hex2bin(...), $keys))
            ->orderByDesc('change_number')->limit(self::NAMED)->get();
        foreach ($rows as $row) {
            $named[] = [
                'id' => RecordId::fromBytes($row->id)->text,
                'name' => StoredRow::name($visible->design(), $row),
            ];
        }

        return $named;
    }

    private function layer(int $number): Layer
    {
        return $this->programme->layers->firstWhere('id', $number)
            ?? throw Refused::because('layer_unknown', 'rule/layer', $number);
    }

    /** @param  list<string>  $fields */
    private function records(Reading $reading, ?int $second = null, array $fields = []): VisibleRecords
    {
        $layer = $this->layer($reading->layer);
        $visible = VisibleRecords::of($this->viewer, $layer);
        if ($visible->seesNothing()) {
            throw Refused::because('tile_hidden', 'rule/layer');
        }
        foreach ([$reading->slice, $second] as $number) {
            if ($number !== null) {
                $slice = Slice::query()->where('layer_id', $layer->id)->find($number)
                    ?? throw Refused::because('slice_unknown', 'rule/slice', $number);
                $visible = $visible->filtered($layer->filter($slice->filter));
            }
        }

        return $visible;
    }
}
