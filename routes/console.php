<?php

declare(strict_types=1);

use App\Photos\ExpiredUploads;
use App\Programmes\EmptyBin;
use Illuminate\Support\Facades\Schedule;

Schedule::call(ExpiredUploads::forget(...))->hourly()->name('forget expired uploads');
Schedule::call(EmptyBin::run(...))->dailyAt('03:20')->name('empty the bin');
Schedule::command('formulas:refresh')->hourly();
