<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\PhotoRules;
use PinYard\Device\PictureType;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** A photo that an operation announces; its bytes come later, on their own. */
final readonly class DeclaredPhoto
{
    private function __construct(
        public RecordId $id,
        public string $name,
        public PictureType $type,
        public int $bytes,
        public string $sha256,
    ) {
    }

    /** @throws Refused */
    public static function read(mixed $in, PhotoRules $rules): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', 'photos', is_scalar($in) ? $in : null);
        }
        $name = is_string($in['name'] ?? null) ? mb_substr($in['name'], 0, 120) : 'photo';
        $type = is_string($in['type'] ?? null) ? PictureType::tryFrom($in['type']) : null;
        $bytes = $in['bytes'] ?? null;
        $sha = $in['sha256'] ?? null;
        $problems = [];
        if ($type === null) {
            $problems[] = new Problem('photo_type', 'photos', is_scalar($in['type'] ?? null) ? $in['type'] : null, ['name' => $name]);
        }
        $bytes = is_int($bytes) && $bytes > 0 ? $bytes : null;
        if ($bytes === null) {
            $problems[] = new Problem('photo_empty', 'photos', null, ['name' => $name]);
        } elseif ($bytes > $rules->maxBytes) {
            $problems[] = new Problem('photo_too_large', 'photos', $bytes, [
                'name' => $name, 'mb' => round($bytes / 1_048_576, 1), 'most' => round($rules->maxBytes / 1_048_576, 1),
            ]);
        }
        $sha = is_string($sha) && preg_match('/^[0-9a-f]{64}$/D', $sha) === 1 ? $sha : null;
        if ($sha === null) {
            $problems[] = new Problem('photo_sha', 'photos', null, ['name' => $name]);
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }
        assert($bytes !== null);

        return new self(RecordId::of($in['id'] ?? null, 'photos'), $name, $type, $bytes, $sha);
    }
}
