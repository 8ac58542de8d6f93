<?php

declare(strict_types=1);

use App\Import\LandImport;
use App\Import\StaleImports;
use App\Models\Import;
use App\Models\Layer;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Process\Process;

uses(Tests\ImportSteps::class);

it('lands all or nothing when its worker is killed, and begins again by itself', function (): void {
    $desk = $this->person();
    $programme = $this->programme($desk);
    $csv = "code,lat,lon\n";
    for ($i = 1; $i <= 60_000; $i++) {
        $csv .= "K-$i,-14.5,-11.5\n";
    }
    $import = $this->bring($desk, $programme, ['k.csv' => $csv]);
    Import::query()
        ->whereKey($import['id'])
        ->update(['state' => 'landing']);
    $model = Import::query()->findOrFail($import['id']);
    $worker = new Process(
        [
            PHP_BINARY,
            '-r',
            'require "vendor/autoload.php"; $app = require "bootstrap/app.php"; '
                .'$app->make(Illuminate\Contracts\Console\Kernel::class)->bootstrap(); (new App\Import\LandImport('.
            $import['id'].
            '))->handle();',
        ],
        base_path(),
    );
    $worker->start();
    for ($i = 0; $i < 500 && ! is_file($model->folder('pipe.ready')); $i++) {
        usleep(20_000);
    }
    usleep(150_000);
    expect($worker->isRunning())->toBeTrue();
    exec('pkill -9 -P '.$worker->getPid());
    $worker->signal(SIGKILL);
    $worker->wait();
    $half = Layer::query()->where('programme_id', $programme->id)->firstOrFail();
    expect($model->refresh()->state)
        ->toBe('landing')
        ->and(DB::table($half->table())->count())
        ->toBe(0);

    // Nobody has been heard of for long.
    Cache::flush();
    DB::table('imports')
        ->where('id', $import['id'])
        ->update(['updated_at' => now()->subHour()]);
    StaleImports::goOn();
    $layers = Layer::query()->where('programme_id', $programme->id)->get();
    expect($model->refresh()->state)
        ->toBe('done')
        ->and($layers)
        ->toHaveCount(1)
        ->and(DB::table($layers[0]->table())->count())
        ->toBe(60_000)
        ->and(DB::table($layers[0]->table())->distinct()->count('f_code'))
        ->toBe(60_000);
    // A second worker that comes late finds it done.
    (new LandImport($import['id']))->handle();
    expect(DB::table($layers[0]->table())->count())->toBe(60_000);
});

it('keeps nothing of a landing that is stopped', function (): void {
    $desk = $this->person();
    $import = $this->decide($this->bring($desk, $this->programme($desk), ['k.csv' => "code,lat,lon\nA,-14.5,-11.5\n"]));
    $this->postJson("/api/v1/imports/{$import['id']}/cancel")
        ->assertOk()
        ->assertJsonPath('state', 'cancelled');
    $this->postJson("/api/v1/imports/{$import['id']}/land")->assertUnprocessable();
});
