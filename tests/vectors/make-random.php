<?php

declare(strict_types=1);

use PinYard\Design\FieldRules;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Formula\Surroundings;
use Tests\vectors\RandomFormulas;

require __DIR__.'/../../vendor/autoload.php';

$v = json_decode((string) file_get_contents(__DIR__.'/formulas.json'), true);
$design = LayerDesign::fromArray($v['design']);
$in = new Surroundings(
    $v['values'],
    new DateTimeImmutable($v['now']),
    new DateTimeZone('Europe/Berlin'),
    $design->rules->labels,
    $v['lon'],
    $v['lat'],
);
$cases = [];
foreach (RandomFormulas::make($design) as $text) {
    $formula = Formula::read($text, FieldRules::scope($design));
    $cases[] =
        '    '.
        json_encode(
            [$text, $formula->value($in)],
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR,
        );
}
file_put_contents(
    __DIR__.'/formulas-random.json',
    "{\n  \"about\": \"Made by make-random.php from a fixed seed, with what PHP gives; zone Europe/Berlin, all "
        ."else as in formulas.json.\",\n  \"zone\": \"Europe/Berlin\",\n  \"cases\": [\n".
        implode(",\n", $cases).
        "\n  ]\n}\n",
);
echo count($cases), " cases\n";
