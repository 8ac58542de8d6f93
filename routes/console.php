<?php

declare(strict_types=1);

use App\Alerts\AlertRounds;
use App\Answers\KeptFiles;
use App\Export\OldFiles;
use App\Files\ExpiredUploads;
use App\Flags\FlagRound;
use App\Import\StaleImports;
use App\Programmes\EmptyBin;
use App\Records\Bits\LayerBits;
use App\Records\ChangeOutbox;
use Illuminate\Support\Facades\Schedule;

Schedule::call(ExpiredUploads::forget(...))->hourly()->name('forget expired uploads');
Schedule::call(EmptyBin::run(...))->dailyAt('03:20')->name('empty the bin');
Schedule::command('formulas:refresh')->hourly();
Schedule::call(StaleImports::goOn(...))->everyMinute()->name('go on with imports whose worker was killed');
Schedule::call(OldFiles::forget(...))->dailyAt('03:40')->name('forget files of old exports and imports');
Schedule::call(ChangeOutbox::tellLate(...))->everyMinute()->name('tell what was written and never told');
Schedule::call(ChangeOutbox::forget(...))->dailyAt('03:50')->name('forget what was told long ago');
Schedule::call(LayerBits::renew(...))->everyMinute()->name('build what large layers are counted by');
Schedule::call(LayerBits::forget(...))->daily()->name('forget files that nothing is counted by');
Schedule::call(KeptFiles::forgetOld(...))->hourly()->name('forget answers that were kept');
Schedule::call(AlertRounds::run(...))->everyTenSeconds()->name('tell what alerts are for');
Schedule::call(AlertRounds::forget(...))->dailyAt('03:30')->name('forget what was told long ago by alerts');
Schedule::call(FlagRound::run(...))->everyTenSeconds()->name('find what speaks against records that wait');
