<?php

declare(strict_types=1);

namespace App;

use Illuminate\Database\LostConnectionException;
use Illuminate\Database\QueryException;

/** What a failure of the database means to whoever asked. */
final class DatabaseFailure
{
    /** 2002, 2006, 2013: cannot connect, gone away, lost during the query; 1053, 1927: shutting down, killed. */
    public static function isAway(\Throwable $e): bool
    {
        if ($e instanceof LostConnectionException) {
            return true;
        }
        $driver =
            $e instanceof QueryException || $e instanceof \PDOException ? (int) ($e->errorInfo[1] ?? $e->getCode()) : 0;

        return in_array($driver, [2002, 2006, 2013, 1053, 1927], true);
    }
}
