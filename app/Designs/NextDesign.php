<?php

declare(strict_types=1);

namespace App\Designs;

use App\Models\Layer;
use App\Models\User;
use App\Recalculation\Recalculate;
use App\Records\Cause;
use App\Records\RecordWriter;
use Illuminate\Support\Facades\DB;
use PinYard\Design\DesignChange;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * A next version of a layer's design whose table has room for it ({@see DesignStore::prepare()}); what is left is one
 * transaction.
 */
final readonly class NextDesign
{
    public function __construct(
        public int $layer,
        private LayerDesign $design,
        private int $base,
        private DesignChange $change,
    ) {
    }

    /** @throws Refused where another version was saved meanwhile */
    public function save(?User $by): Layer
    {
        $layer = RecordWriter::locked($this->layer, Cause::Design, $by?->id, function (RecordWriter $writer) use (
            $by,
        ): Layer {
            $layer = $writer->layer;
            DesignStore::refuseStale($layer, $this->base);
            $layer->fill([
                'title' => $this->design->title,
                'design_version' => $this->base + 1,
                'is_area' => $this->design->geometry === GeometryKind::Area,
                'columns' => [...$layer->columns, ...DesignStore::columns($this->design)],
            ]);
            // The number by which phones see that there is a new design.
            $writer->next();
            DesignStore::keep($layer, $this->base + 1, $this->design, $by, $this->change);
            (new DesignRollout($writer))->run($this->change);

            return $layer;
        });
        if ($this->change->recalculate !== []) {
            DB::afterCommit(fn () => Recalculate::soon($layer, $this->change->recalculate, Cause::Design, $by?->id));
        }

        return $layer;
    }
}
