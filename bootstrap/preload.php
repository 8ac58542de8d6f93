<?php

declare(strict_types=1);

/*
 * Given to php-fpm as opcache.preload: the framework's classes that nearly every request needs are there when a request
 * begins, in
 * place of being found, opened and linked each time. Our own are not among them, so that a changed file is seen at
 * once.
 */

$list = (getenv('PINYARD_VAR') ?: dirname(__DIR__).'/var/demo').'/cache/preload.txt';
foreach (is_file($list) ? file($list, FILE_IGNORE_NEW_LINES | FILE_SKIP_EMPTY_LINES) ?: [] : [] as $file) {
    if (is_file($file)) {
        opcache_compile_file($file);
    }
}
