<?php

declare(strict_types=1);

namespace App\Slices;

use App\Models\Member;
use App\Models\Programme;
use App\Rights\Viewer;

/**
 * What a rule asks for beside its layer's own records, as a state that changes when that does: visits, areas of other
 * layers, who is in which crew, who looks, which day it is. Whoever keeps an answer under a rule names it.
 */
final class RuleNeeds
{
    /**
     * @param  string  $rule  a filter as it is stored
     * @param  callable(): string  $records  names the state of all records of the programme
     * @return list<string>
     */
    public static function of(string $rule, Programme $programme, Viewer $viewer, callable $records): array
    {
        $others = str_contains($rule, '"visit"') || str_contains($rule, '@visits') || str_contains($rule, '@place');

        return [
            $programme->today(),
            ...$others ? [$records()] : [],
            ...str_contains($rule, '@crew') ? [Member::crewsOf($programme)] : [],
            ...str_contains($rule, '@own') ? ['person '.($viewer->person->id ?? 'none')] : [],
        ];
    }
}
