<?php

declare(strict_types=1);

namespace App\Alerts;

use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\Models\Slice;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use PinYard\Alert\AlertPlan;
use PinYard\Alert\MeasureRule;
use PinYard\Alert\SilenceRule;

/** Who is told by an alert: those who see alike are worked out for together. */
final class Recipients
{
    /**
     * @return array<string, non-empty-list<Member>> by way of seeing; whoever may see nothing of it is not told
     */
    public static function of(AlertPlan $plan, Programme $programme): array
    {
        $members = $programme->members()->with(['user', 'crew', 'groups'])->get()->filter(
            static fn (Member $m): bool => ($plan->toCoordinators && $m->role === Role::Coordinator)
                || ($m->crew_id !== null && in_array($m->crew_id, $plan->crews, true)),
        );
        $slices = Slice::query()->whereIn('id', $plan->rule->slices())->orderBy('id')->get()
            ->map(static fn (Slice $s): string => (string) $s->getRawOriginal('filter'))->implode('|');
        $ways = [];
        foreach ($members as $member) {
            $programme->knowMember($member->user, $member);
            $way = self::way($plan, $programme, $member, $slices);
            if ($way !== null) {
                $ways[$way][] = $member;
            }
        }

        return $ways;
    }

    private static function way(AlertPlan $plan, Programme $programme, Member $member, string $slices): ?string
    {
        $viewer = Viewer::person($member->user);
        // Under another rule other records are in it, and none of them has just come.
        $parts = [(string) json_encode($plan->rule->toArray()), $slices];
        foreach ($plan->rule->layers() as $number) {
            $layer = $programme->layers->firstWhere('id', $number);
            foreach (array_filter([$layer, $layer?->visitsLayer]) as $read) {
                $visible = VisibleRecords::of($viewer, $read);
                if ($read->id === $number && $visible->seesNothing()) {
                    return null;
                }
                $parts[] = $visible->key();
            }
        }
        $own = $member->role !== Role::Coordinator && self::isOwn($plan);
        // `@own`: a slice is of the records of whoever looks.
        if ($own || str_contains($slices, '@own')) {
            $parts[] = "person $member->user_id";
        }

        return hash('sha256', implode('|', $parts));
    }

    /** Whether whoever does not coordinate is told of their own alone: crews, and people's ways. */
    private static function isOwn(AlertPlan $plan): bool
    {
        return $plan->rule instanceof SilenceRule
            || ($plan->rule instanceof MeasureRule && $plan->rule->measure->tellsPeople());
    }
}
