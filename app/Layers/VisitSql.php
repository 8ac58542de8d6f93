<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use PinYard\Design\FieldKind;

/** What formulas say of visits, as parts of a statement over the table of the layer that is visited. */
final readonly class VisitSql
{
    private function __construct(private Layer $visited, private Layer $visits)
    {
    }

    public static function of(Layer $visited): ?self
    {
        return $visited->visitsLayer === null ? null : new self($visited, $visited->visitsLayer);
    }

    public function count(): string
    {
        return "(SELECT CAST(COUNT(*) AS DOUBLE) {$this->from()})";
    }

    /** The value in the latest visit, missing or not. */
    public function latest(string $key): string
    {
        $column = $this->visits->design()->field($key)?->column() ?? throw new NotInSql;

        return "(SELECT v.`$column` {$this->from()} ORDER BY v.collected_at DESC, v.id DESC LIMIT 1)";
    }

    public function kind(string $key): FieldKind
    {
        return $this->visits->design()->field($key)?->valueKind() ?? throw new NotInSql;
    }

    private function from(): string
    {
        return "FROM {$this->visits->table()} v WHERE v.parent = {$this->visited->table()}.id AND v.deleted = 0";
    }
}
