<?php

declare(strict_types=1);

namespace PinYard\Plan;

use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;

/**
 * What is still missing before crews go out. These are the settings that are forgotten most: rights, photos, people,
 * area, a map, a trial.
 */
final class ReadyCheck
{
    /** More than this on a phone is slow to fetch where the signal is thin. */
    private const PACK_MOST_MB = 150;

    /** Words that say that a form asks for a picture. */
    private const PICTURE = '/\b(photo|photos|picture|pictures|close-up)\b/i';

    /**
     * @param  list<LayerFacts>  $layers
     * @param  int  $crew  people who can go out
     * @param  list<string>  $questions  state of each question
     * @param  int|null  $caught  things that are open to everyone with a layer that is not; null: nothing is open
     * @return list<ReadyLine>
     */
    public static function of(
        array $layers,
        int $crew,
        Box $area,
        int $packBytes,
        array $questions,
        ?int $caught = null,
    ): array {
        $lines = [new ReadyLine('layers', $layers !== [], 'layer')];
        foreach ($layers as $facts) {
            $design = $facts->design;
            $title = ['layer' => $design->title];
            $lines[] = new ReadyLine('fields', $design->valueFields() !== [], 'layer', $facts->id, $title);
            $lines[] = new ReadyLine('rights', self::letsWork($design), 'rights', $facts->id, $title);
            if (self::asksForPicture($design)) {
                $lines[] = new ReadyLine(
                    'photos',
                    $design->photos->allowed || $design->slots !== [],
                    'photos',
                    $facts->id,
                    $title,
                );
            }
            // An area or a way is rarely what must not be found.
            if ($facts->isOpen && $design->geometry === GeometryKind::Point) {
                $lines[] = new ReadyLine('seen', ! $facts->exact || $facts->decided, 'seen', $facts->id, $title);
            }
            if ($facts->isOpen && $facts->waiting > 0) {
                $lines[] = new ReadyLine('accepted', false, 'check', $facts->id, $title + [
                    'count' => $facts->waiting,
                ]);
            }
            // A visit is tried and seen with the record that it belongs to.
            if ($design->visitsOf === null) {
                $lines[] = new ReadyLine('trial', $facts->tried, 'trial', $facts->id, $title);
                $lines[] = new ReadyLine('map', $facts->hasMap, 'map', $facts->id, $title);
            }
        }
        $lines[] = new ReadyLine('people', $crew > 0, 'people', null, ['count' => $crew]);
        // An area as wide as a continent opens every phone far from where the work is.
        $lines[] = new ReadyLine('area', $area->east - $area->west < 20 && $area->north - $area->south < 20, 'area');
        $mb = (int) ceil($packBytes / 1_048_576);
        $lines[] = new ReadyLine('pack', $mb <= self::PACK_MOST_MB, 'pack', null, [
            'mb' => $mb,
            'most' => self::PACK_MOST_MB,
        ]);
        if ($caught !== null) {
            $lines[] = new ReadyLine('caught', $caught === 0, 'seen', null, ['count' => $caught]);
        }
        if ($questions !== []) {
            $open = count(array_filter($questions, static fn (string $state): bool => $state === 'open'));
            $lines[] = new ReadyLine('questions', $open === 0, 'questions', null, ['count' => $open]);
        }

        return $lines;
    }

    private static function letsWork(LayerDesign $design): bool
    {
        foreach ([$design->crew, ...array_values($design->crews)] as $rights) {
            if ($rights->add || $rights->change !== 'none') {
                return true;
            }
        }

        return false;
    }

    private static function asksForPicture(LayerDesign $design): bool
    {
        $words = implode(' ', array_map(static fn (Field $f): string => "$f->label $f->hint", $design->fields));

        return $design->photos->least > 0 || preg_match(self::PICTURE, $words) === 1;
    }
}
