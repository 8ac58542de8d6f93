<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Export\Spreadsheets;
use App\Import\SheetRows;
use Illuminate\Console\Command;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Reads a spreadsheet in a process of its own, whose limits end what one small file can ask for
 * (App\Processes\LimitedProcess).
 */
final class ReadSheet extends Command
{
    protected $signature = 'sheet:read {file} {name} {--into= : a folder: the rows of one sheet go there as CSV} '
        .'{--table= : which sheet}';

    protected $description = 'Read a spreadsheet (part of bringing it in)';

    protected $hidden = true;

    public function handle(): int
    {
        [$file, $name, $into, $table] = [
            (string) $this->argument('file'),
            (string) $this->argument('name'),
            $this->option('into'),
            $this->option('table'),
        ];
        try {
            $answer = is_string($into)
                ? SheetRows::write($file, $name, $into, is_string($table) ? $table : null)
                : Spreadsheets::readHere($file, $name);
        } catch (Refused $e) {
            $answer = [
                'refused' => array_map(
                    static fn (Problem $p): array => [
                        'code' => $p->code,
                        'field' => $p->field,
                        'value' => $p->value,
                        'params' => $p->params,
                    ],
                    $e->problems,
                ),
            ];
        }
        fwrite(
            STDOUT,
            json_encode($answer, JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR),
        );

        return self::SUCCESS;
    }
}
