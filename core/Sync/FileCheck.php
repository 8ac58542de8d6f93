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
     */
    public static function of(LayerDesign $design, array $declared, callable $isTaken): self
    {
        $problems = [];
        $bySlot = ['' => []];
        foreach ($declared as $one) {
            $slot = is_array($one) ? ($one['slot'] ?? '') : '';
            $bySlot[is_string($slot) ? $slot : ''][] = $one;
        }
        $photos = $design->photos;
        $count = count($bySlot['']);
        if ($count > 0 && ! $photos->allowed) {
            $problems[] = new Problem('photos_not_allowed', 'photos', $count);
            $bySlot[''] = [];
        } elseif ($count > $photos->most || $photos->allowed && $count < $photos->least) {
            $problems[] = new Problem('photos_count', 'photos', $count, ['count' => $count, 'least' => $photos->least, 'most' => $photos->most]);
            $bySlot[''] = [];
        }
        foreach ($design->slots as $slot) {
            $count = count($bySlot[$slot->key] ?? []);
            if ($count < $slot->least || $count > $slot->most) {
                $problems[] = new Problem('slot_count', 'photos', $count, ['slot' => $slot->label, 'count' => $count, 'least' => $slot->least, 'most' => $slot->most]);
                $bySlot[$slot->key] = [];
            }
        }
        $files = [];
        foreach ($bySlot as $key => $list) {
            $slot = $key === '' ? null : $design->slot((string) $key);
            if ($key !== '' && $slot === null) {
                $problems[] = new Problem('slot_unknown', 'photos', $key, ['slot' => $key, 'known' => implode(', ', array_map(static fn ($s): string => $s->key, $design->slots))]);

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
