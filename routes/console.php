<?php

declare(strict_types=1);

use App\Photos\ExpiredUploads;
use Illuminate\Support\Facades\Schedule;

Schedule::call(ExpiredUploads::forget(...))->hourly()->name('forget expired uploads');
Schedule::command('formulas:refresh')->hourly();
