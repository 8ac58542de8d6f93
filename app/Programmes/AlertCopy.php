<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Models\Alert;
use App\Models\Programme;

/** An alert of a copied programme: with the numbers of the copied layers, slices and crews, and nothing told yet. */
final class AlertCopy
{
    /**
     * @param  array<int, int>  $layers  numbers to those of their copies
     * @param  array<int, int>  $slices
     * @param  array<int, int>  $crews
     */
    public static function into(Programme $to, Alert $from, array $layers, array $slices, array $crews): void
    {
        $plan = self::renumbered($from->plan, ['layer' => $layers, 'slice' => $slices, 'crew' => $crews]);
        $told = is_array($from->plan['to']['crews'] ?? null) ? $from->plan['to']['crews'] : [];
        $plan['to']['crews'] = array_values(array_filter(array_map(
            static fn (mixed $crew): ?int => $crews[$crew] ?? null,
            $told,
        )));
        $to->alerts()->create(['name' => $from->name, 'plan' => $plan, 'paused' => $from->paused]);
    }

    /**
     * @param  array<mixed>  $document
     * @param  array<string, array<int, int>>  $numbers  by key
     * @return array<mixed>
     */
    private static function renumbered(array $document, array $numbers): array
    {
        $copy = [];
        foreach ($document as $key => $part) {
            $copy[$key] = match (true) {
                is_array($part) => self::renumbered($part, $numbers),
                is_int($part) && isset($numbers[$key]) => $numbers[$key][$part] ?? null,
                default => $part,
            };
        }

        return $copy;
    }
}
