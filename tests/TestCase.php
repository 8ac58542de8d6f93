<?php

declare(strict_types=1);

namespace Tests;

use Illuminate\Foundation\Testing\TestCase as Base;

/** The database is made anew once for a run (bin/test); each test makes what it needs and leaves it. */
abstract class TestCase extends Base
{
    use Yard;

    protected function setUp(): void
    {
        parent::setUp();
        $this->withoutMiddleware(\App\Http\Middleware\CsrfOfSignedIn::class);
    }
}
