<?php

declare(strict_types=1);

use App\Exchange\OldFiles;
use App\Intake\StaleImports;
use App\Photos\ExpiredUploads;
use App\Programmes\EmptyBin;
use Illuminate\Support\Facades\Schedule;

Schedule::call(ExpiredUploads::forget(...))->hourly()->name('forget expired uploads');
Schedule::call(EmptyBin::run(...))->dailyAt('03:20')->name('empty the bin');
Schedule::command('formulas:refresh')->hourly();
Schedule::call(StaleImports::goOn(...))->everyMinute()->name('go on with imports whose worker was killed');
Schedule::call(OldFiles::forget(...))->dailyAt('03:40')->name('forget files of old exports and imports');
