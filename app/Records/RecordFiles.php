<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Attachment;
use App\Models\Layer;
use App\Models\User;
use App\Rights\LayerRights;
use Illuminate\Auth\Access\AuthorizationException;
use PinYard\Record\RecordId;
use PinYard\Refused;
use PinYard\Sync\FileCheck;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** Files that join or leave a record after it was made. What was taken away can be put back: its bytes stay. */
final readonly class RecordFiles
{
    public function __construct(private User $user)
    {
    }

    /**
     * Announces files; their bytes come as uploads.
     *
     * @param  list<mixed>  $declared
     * @return array<string, mixed> the record as it is now
     *
     * @throws Refused
     */
    public function announce(int $layer, string $record, array $declared): array
    {
        $id = RecordId::of($record)->bytes();

        return RecordWriter::locked($layer, Cause::Files, $this->user->id, function (RecordWriter $writer) use (
            $id,
            $declared,
        ): array {
            $layer = $writer->layer;
            $this->allowed($layer, $id);
            $there = Attachment::query()
                ->where('layer_id', $layer->id)
                ->where('record_id', $id)
                ->where('state', '!=', 'removed')
                ->get();
            $counts = $there->countBy(static fn (Attachment $a): string => $a->slot ?? '')->all();
            $taken = static fn (string $file): bool => Attachment::query()
                ->whereKey(RecordId::of($file)->bytes())
                ->exists();
            $check = FileCheck::of($layer->design(), $declared, $taken, $counts);
            if ($check->problems !== []) {
                throw Refused::for($check->problems);
            }
            foreach ($check->files as $i => $file) {
                Attachment::query()->create([
                    'id' => $file->id->bytes(),
                    'layer_id' => $layer->id,
                    'record_id' => $id,
                    'position' => $there->count() + $i,
                    'slot' => $file->slot,
                    'name' => $file->name,
                    'type' => $file->type->value,
                    'bytes' => $file->bytes,
                    'sha256' => $file->sha256,
                    'state' => 'on_way',
                    'created_by' => $this->user->id,
                    'created_at' => now(),
                ]);
            }

            return $this->touched($writer, $id);
        });
    }

    /** @return array<string, mixed> the record as it is now */
    public function remove(Attachment $file): array
    {
        return $this->settle($file, 'removed');
    }

    /** @return array<string, mixed> the record as it is now */
    public function putBack(Attachment $file): array
    {
        return $this->settle($file, 'stored');
    }

    /** @return array<string, mixed> */
    private function settle(Attachment $file, string $state): array
    {
        return RecordWriter::locked($file->layer_id, Cause::Files, $this->user->id, function (
            RecordWriter $writer,
        ) use ($file, $state): array {
            $this->allowed($writer->layer, $file->record_id);
            $before = $state === 'removed' ? ['stored', 'on_way', 'refused'] : ['removed'];
            Attachment::query()
                ->whereKey($file->id)
                ->whereIn('state', $before)
                ->update([
                    'state' => $state === 'stored' && $file->width === null && ! $file->arrived() ? 'on_way' : $state,
                ]);

            return $this->touched($writer, $file->record_id);
        });
    }

    private function allowed(Layer $layer, string $record): void
    {
        $rights = LayerRights::of($this->user, $layer);
        $row = VisibleRecords::for($this->user, $layer)->rows()->where('id', $record)->first();
        if ($layer->trashed() || ! $rights->maySee() || $row === null) {
            throw new NotFoundHttpException;
        }
        if (! $rights->mayChange($row->created_by)) {
            throw new AuthorizationException;
        }
    }

    /** @return array<string, mixed> */
    private function touched(RecordWriter $writer, string $record): array
    {
        $writer->touch([$record]);

        return RecordView::present(
            $writer->layer,
            $writer->layer->design(),
            $writer->records()->where('id', $record)->get(),
            $this->user,
        )[0];
    }
}
