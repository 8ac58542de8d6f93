<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\PhotoRules;
use PinYard\Design\Slot;
use PinYard\Device\FileKind;
use PinYard\Device\FileType;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** A file that an operation announces, a photo or something for a named slot; its bytes come later, on their own. */
final readonly class DeclaredFile
{
    private function __construct(
        public RecordId $id,
        public string $name,
        public FileType $type,
        public int $bytes,
        public string $sha256,
        public ?string $slot,
    ) {
    }

    /**
     * @param  Slot|null  $slot  null for photos at large
     *
     * @throws Refused
     */
    public static function read(mixed $in, PhotoRules $rules, ?Slot $slot = null): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', 'photos', is_scalar($in) ? $in : null);
        }
        $kind = $slot->kind ?? FileKind::Photo;
        $most = $slot->maxBytes ?? $rules->maxBytes;
        $name = is_string($in['name'] ?? null) ? mb_substr($in['name'], 0, 120) : $kind->value;
        $type = is_string($in['type'] ?? null) ? FileType::tryFrom($in['type']) : null;
        $bytes = $in['bytes'] ?? null;
        $sha = $in['sha256'] ?? null;
        $problems = [];
        if ($type === null || $type->kind() !== $kind) {
            $problems[] = new Problem(
                $kind === FileKind::Photo ? 'photo_type' : 'file_type',
                'photos',
                is_scalar($in['type'] ?? null) ? $in['type'] : null,
                [
                    'name' => $name,
                    'slot' => $slot->label ?? '',
                    'kind' => $kind->value,
                ],
            );
        }
        $bytes = is_int($bytes) && $bytes > 0 ? $bytes : null;
        if ($bytes === null) {
            $problems[] = new Problem('photo_empty', 'photos', null, ['name' => $name]);
        } elseif ($bytes > $most) {
            $problems[] = new Problem('photo_too_large', 'photos', $bytes, [
                'name' => $name,
                'mb' => round($bytes / 1_048_576, 1),
                'most' => round($most / 1_048_576, 1),
            ]);
        }
        $sha = is_string($sha) && preg_match('/^[0-9a-f]{64}$/D', $sha) === 1 ? $sha : null;
        if ($sha === null) {
            $problems[] = new Problem('photo_sha', 'photos', null, ['name' => $name]);
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }
        assert($type !== null && $bytes !== null);

        return new self(RecordId::of($in['id'] ?? null, 'photos'), $name, $type, $bytes, $sha, $slot?->key);
    }
}
