<?php

declare(strict_types=1);

use App\OpenApi\Description;

// Source: OpenAPI Specification 3.1.0, sections 4.8.8 (path parameters) and 4.8.16 (responses).
it('describes every route, and nothing that is not there', function (): void {
    $api = json_decode(Description::make(), true);
    expect($api['openapi'])->toBe('3.1.0');
    $described = [];
    foreach ($api['paths'] as $path => $operations) {
        foreach ($operations as $method => $operation) {
            $described[] = strtoupper($method).' '.ltrim($path, '/');
            preg_match_all('/\{(\w+)\}/', $path, $names);
            $parameters = array_column(
                array_filter($operation['parameters'], fn (array $p): bool => ($p['in'] ?? '') === 'path'),
                'name',
            );
            expect($parameters)
                ->toBe($names[1])
                ->and($operation['summary'])
                ->not->toBeEmpty()
                ->and($operation['responses'])
                ->not->toBeEmpty();
        }
    }
    $routes = allRoutes();
    sort($routes);
    sort($described);
    expect($described)->toBe($routes);
});

it('refers only to parts that it has', function (): void {
    $text = Description::make();
    preg_match_all('~"\$ref":"#/components/(\w+)/(\w+)"~', $text, $refs, PREG_SET_ORDER);
    $api = json_decode($text, true);
    expect($refs)->not->toBeEmpty();
    foreach ($refs as [, $kind, $name]) {
        expect($api['components'][$kind])->toHaveKey($name);
    }
});

it('has a sentence for every code with which anything is refused', function (): void {
    $texts = json_decode((string) file_get_contents(resource_path('texts/en.json')), true);
    $codes = [];
    foreach (['core', 'app'] as $folder) {
        foreach (
            new RecursiveIteratorIterator(
                new RecursiveDirectoryIterator(base_path($folder), FilesystemIterator::SKIP_DOTS),
            ) as $file
        ) {
            preg_match_all(
                "/(?:because|new Problem|->off|self::off)\(\s*'(\w+)'/",
                (string) file_get_contents((string) $file),
                $found,
            );
            array_push($codes, ...$found[1]);
        }
    }
    expect(count($codes))->toBeGreaterThan(60);
    foreach (array_unique($codes) as $code) {
        expect($texts)->toHaveKey("problem.$code");
    }
});
