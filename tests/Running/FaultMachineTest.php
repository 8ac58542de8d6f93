<?php

declare(strict_types=1);

use Symfony\Component\Process\Process;

/*
 * The fault machine, small, against the server that bin/test has started; processes are really killed. Its seed is
 * another one
 * each time and is printed with what it finds. A run of ten thousand rounds is told of in docs/reliability.md.
 */
it('loses and doubles nothing, whatever phones, network and server do', function (
    string $kill,
    int $rounds,
    int $gathered,
): void {
    $machine = new Process(
        [
            'php',
            '-d',
            'memory_limit=512M',
            'artisan',
            'sync:faults',
            "--rounds=$rounds",
            "--gathered=$gathered",
            '--phones=5',
            "--kill=$kill",
            '--url='.getenv('PINYARD_TEST_URL'),
        ],
        base_path(),
        ['DB_DATABASE' => 'pinyard', 'PINYARD_VAR' => getenv('PINYARD_VAR')],
        timeout: 180,
    );
    $machine->run();
    expect($machine->getExitCode())
        ->toBe(0, $machine->getOutput().$machine->getErrorOutput())
        ->and($machine->getOutput())
        ->toContain('nothing lost, nothing doubled');
})->with([['', 60, 300], ['fpm', 60, 0], ['fpm,mariadb', 40, 0]]);
