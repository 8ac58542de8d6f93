<?php

declare(strict_types=1);

namespace App\Files;

use App\Models\Attachment;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use PinYard\Record\RecordId;

final class MakeThumbnails implements ShouldQueue
{
    use Queueable;

    public function __construct(private readonly string $photo)
    {
        // Whoever looks at a photo before gets its copy made on the spot.
        $this->onQueue('slow');
    }

    public function handle(): void
    {
        $photo = Attachment::query()->find(RecordId::of($this->photo)->bytes());
        if ($photo !== null && $photo->state === 'stored') {
            foreach (array_keys(Pictures::SIZES) as $size) {
                Pictures::sized($photo, $size);
            }
        }
    }
}
