<?php

declare(strict_types=1);

use Illuminate\Http\Request;

define('LARAVEL_START', microtime(true));

require __DIR__.'/../vendor/autoload.php';

if (App\Http\Polls\ShortWay::answers($_SERVER, $_COOKIE)) {
    return;
}

// Laravel parses a JSON body while it makes the request, before anybody was asked who sends it. So it does not learn
// here that the
// body is JSON; App\Http\Middleware\ReadJson measures and parses it, once that is known.
$type = $_SERVER['CONTENT_TYPE'] ?? null;
unset($_SERVER['CONTENT_TYPE'], $_SERVER['HTTP_CONTENT_TYPE']);
$request = Request::capture();
if ($type !== null) {
    $request->server->set('CONTENT_TYPE', $type);
    $request->headers->set('Content-Type', $type);
}

(require_once __DIR__.'/../bootstrap/app.php')->handleRequest($request);
