<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\LayerDesign;
use PinYard\Problem;
use PinYard\Refused;

/** Whether the files that come with a record are what its layer takes: their slots, how many of each, how large. */
final readonly class FileCheck
{
    /**
     * @param  list<DeclaredFile>  $files
     * @param  list<Problem>  $problems
     */
    private function __construct(public array $files, public array $problems)
    {
    }

    /**
     * @param  list<mixed>  $declared
     * @param  callable(string): bool  $isTaken  whether an id belongs to another file already
     * @param  array<string, int>|null  $there  files that the record has already, by slot ('' for photos at large);
     *     null for a new record
     */
    public static function of(LayerDesign $design, array $declared, callable $isTaken, ?array $there = null): self
    {
        // Most records come without files, in layers that ask for none.
        if ($declared === [] && $design->slots === [] && ($there !== null || ! $design->photos->allowed ||
            $design->photos->least === 0)) {
            return new self([], []);
        }
        $problems = [];
        $bySlot = ['' => []];
        foreach ($declared as $one) {
            $slot = is_array($one) ? $one['slot'] ?? '' : '';
            $bySlot[is_string($slot) ? $slot : ''][] = $one;
        }
        $photos = $design->photos;
        // What a record that is there lacks was judged when it was made.
        $had = static fn (string $slot): int => $there[$slot] ?? 0;
        $few = static fn (int $count, int $least): bool => $there === null && $count < $least;
        $count = count($bySlot['']);
        if ($count > 0 && ! $photos->allowed) {
            $problems[] = new Problem('photos_not_allowed', 'photos', $count);
            $bySlot[''] = [];
        } elseif (
            ($count > 0 && $count + $had('') > $photos->most) ||
            ($photos->allowed && $few($count, $photos->least))
        ) {
            $problems[] = new Problem('photos_count', 'photos', $count, [
                'count' => $count + $had(''),
                'least' => $photos->least,
                'most' => $photos->most,
            ]);
            $bySlot[''] = [];
        }
        foreach ($design->slots as $slot) {
            $count = count($bySlot[$slot->key] ?? []);
            if ($few($count, $slot->least) || ($count > 0 && $count + $had($slot->key) > $slot->most)) {
                $problems[] = new Problem('slot_count', 'photos', $count, [
                    'slot' => $slot->label,
                    'count' => $count + $had($slot->key),
                    'least' => $slot->least,
                    'most' => $slot->most,
                ]);
                $bySlot[$slot->key] = [];
            }
        }
        $files = [];
        foreach ($bySlot as $key => $list) {
            $slot = $key === '' ? null : $design->slot((string) $key);
            if ($key !== '' && $slot === null) {
                $problems[] = new Problem('slot_unknown', 'photos', $key, [
                    'slot' => $key,
                    'known' => implode(', ', array_map(static fn ($s): string => $s->key, $design->slots)),
                ]);

                continue;
            }
            foreach ($list as $one) {
                try {
                    $file = DeclaredFile::read($one, $photos, $slot);
                    if ($isTaken($file->id->text) || isset($files[$file->id->text])) {
                        throw Refused::because('photo_exists', 'photos', $file->id->text);
                    }
                    $files[$file->id->text] = $file;
                } catch (Refused $e) {
                    array_push($problems, ...$e->problems);
                }
            }
        }

        return new self(array_values($files), $problems);
    }
}
