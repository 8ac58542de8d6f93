<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Device\FileKind;

/**
 * Reads what files records carry: photos at large, and named slots.
 *
 * @internal
 */
final readonly class AttachmentReader
{
    private const MOST_SLOTS = 20;

    public function __construct(private DocumentReader $in)
    {
    }

    /** @param  array<mixed>  $d */
    public function photos(array $d): PhotoRules
    {
        $p = $this->in->part($d, 'photos', '', ['allowed', 'least', 'most', 'max_bytes']);
        if ($p === null) {
            return new PhotoRules;
        }
        $least = $this->in->whole($p, 'least', '/photos', 0, 50, 0);
        $most = $this->in->whole($p, 'most', '/photos', 1, 50, 6);
        if ($least > $most) {
            $this->in->off('limits_upside_down', '/photos', null, ['lowest' => $least, 'highest' => $most]);
        }

        return new PhotoRules(
            $this->in->flag($p, 'allowed', '/photos', false),
            $least,
            $most,
            $this->in->whole($p, 'max_bytes', '/photos', 10_000, PhotoRules::MOST_BYTES, PhotoRules::MAX_BYTES),
        );
    }

    /**
     * @param  array<mixed>  $d
     * @return list<Slot>
     */
    public function slots(array $d): array
    {
        $slots = [];
        foreach ($this->in->list($d, 'slots', self::MOST_SLOTS) as $i => $one) {
            $at = "/slots/$i";
            if (! is_array($one)) {
                $this->in->off('must_be_object', $at, $one);

                continue;
            }
            $this->in->noOthers($one, ['key', 'label', 'hint', 'kind', 'least', 'most', 'max_bytes'], $at);
            $key = $one['key'] ?? null;
            if (! is_string($key) || preg_match(FieldReader::KEY, $key) !== 1) {
                $this->in->off('key_shape', "$at/key", is_scalar($key) ? $key : null);
                $key = '';
            }
            $kind = is_string($one['kind'] ?? null) ? FileKind::tryFrom($one['kind']) : null;
            if ($kind === null) {
                $this->in->off('slot_kind', "$at/kind", is_scalar($one['kind'] ?? null) ? $one['kind'] : null, [
                    'known' => implode(', ', array_column(FileKind::cases(), 'value')),
                ]);
                $kind = FileKind::Photo;
            }
            $least = $this->in->whole($one, 'least', $at, 0, 20, 0);
            $most = $this->in->whole($one, 'most', $at, 1, 20, 1);
            if ($least > $most) {
                $this->in->off('limits_upside_down', $at, null, ['lowest' => $least, 'highest' => $most]);
            }
            $slots[] = new Slot(
                $key,
                $this->in->text($one, 'label', $at, 1, 80),
                $kind,
                $this->in->text($one, 'hint', $at, 0, 300),
                $least,
                $most,
                $this->in->whole($one, 'max_bytes', $at, 10_000, $kind->mostBytes(), $kind->usualBytes()),
            );
        }
        $this->in->noDoubles($slots, static fn (Slot $s): string => $s->key, 'key_doubled', '/slots', '/key');
        $this->in->noDoubles(
            $slots,
            static fn (Slot $s): string => mb_strtolower($s->label),
            'label_doubled',
            '/slots',
            '/label',
        );

        return $slots;
    }
}
