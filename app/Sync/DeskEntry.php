<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\Layer;
use App\Models\User;
use App\Records\RecordView;
use App\Records\VisibleRecords;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** A record entered at the desk. It goes through the same round as those of phones, so the same rules hold. */
final readonly class DeskEntry
{
    public function __construct(private User $user, private Layer $layer)
    {
    }

    /**
     * @return array<string, mixed>
     *
     * @throws Refused
     */
    public function add(
        mixed $values,
        mixed $geometry,
        mixed $altitude = null,
        mixed $visited = null,
        mixed $photos = [],
    ): array {
        $record = RecordId::make();
        [$answer] = SyncRound::for($this->user, RecordId::make()->text)->take([
            [
                'op' => RecordId::make()->text,
                'kind' => 'add',
                'seq' => 0,
                'layer' => $this->layer->id,
                'design' => $this->layer->design_version,
                'record' => $record->text,
                'captured_at' => now()->format('Y-m-d\TH:i:s.v\Z'),
                'values' => $values,
                'geometry' => $geometry,
                'fix' => null,
                'photos' => $photos,
                'altitude' => $altitude,
                'visited' => $visited,
            ],
        ]);
        if ($answer['outcome'] !== 'applied') {
            throw Refused::for(
                array_map(
                    static fn (array $p): Problem => new Problem(
                        $p['code'],
                        $p['field'],
                        $p['value'],
                        (array) $p['params'],
                    ),
                    array_values($answer['problems']),
                ),
            );
        }
        $layer = $this->layer->refresh();

        return RecordView::present(
            $layer,
            $layer->design(),
            VisibleRecords::for($this->user, $layer)->rows()->where('id', $record->bytes())->get(),
            $this->user,
        )[0];
    }
}
