<?php

declare(strict_types=1);

namespace Tests;

use Illuminate\Foundation\Http\Events\RequestHandled;
use Illuminate\Foundation\Testing\TestCase as Base;
use Illuminate\Support\Facades\Event;

/** The database is made anew once for a run (bin/test); each test makes what it needs and leaves it. */
abstract class TestCase extends Base
{
    use Yard;

    protected function setUp(): void
    {
        parent::setUp();
        $this->withoutMiddleware(\App\Http\Middleware\CsrfOfSignedIn::class);
        // Whatever a test asks for, its answer must be as the API's description says.
        Event::listen(RequestHandled::class, AnswersAsDescribed::check(...));
    }
}
