<?php

declare(strict_types=1);

use App\Layers\StoredRow;
use App\Layers\StoredValue;
use PinYard\Design\LayerDesign;

it('calls records as phones do', function (): void {
    foreach (vectors('names')['cases'] as [$field, $value, $name]) {
        $design = LayerDesign::fromArray(['title' => 'T', 'geometry' => 'point', 'fields' => [$field]]);
        $column = $design->fields[0]->column();
        // As a decimal's column gives it.
        $stored = StoredValue::toColumn($design->fields[0]->kind, $value);
        expect(StoredRow::name($design, (object) [$column => $stored]))->toBe($name, json_encode([$field, $value]));
    }
});
