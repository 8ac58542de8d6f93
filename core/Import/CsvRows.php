<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Problem;
use PinYard\Refused;

/** Rows of a CSV text in UTF-8, one after the other, in little memory. */
final class CsvRows
{
    /** Bytes of one row, with all its quoted line ends. */
    private const LONGEST = 4_194_304;

    private const PIECE = 1_048_576;

    /** @var list<Problem> what had to be corrected, each with its row */
    public array $notes = [];

    /**
     * @param  resource  $stream  readable, standing at the first byte
     * @param  non-empty-string  $delimiter
     */
    public function __construct(
        private $stream,
        private readonly string $delimiter,
        private readonly int $longest = self::LONGEST,
    ) {
    }

    /**
     * @return \Generator<int, list<string>> cells by the number of the row, the first being 1; blank rows are counted
     *     and left out
     *
     * @throws Refused where a row never ends
     */
    public function rows(): \Generator
    {
        $number = 0;
        $quoted = true;
        /** @var list<string> $open lines of a row whose quotes are not closed yet */
        $open = [];
        $cells = [];
        $cell = null;
        $length = 0;
        foreach ($this->lines() as $line) {
            if ($quoted && ($open !== [] || str_contains($line, '"'))) {
                $open[] = $line;
                $length += strlen($line) + 1;
                // Each line is gone through once, from where the one before it ended.
                $this->read($line, $cells, $cell);
                if ($cell === null) {
                    yield ++$number => $cells;
                    [$open, $cells, $length] = [[], [], 0];
                } elseif ($length > $this->longest) {
                    // A quote that is never closed would swallow all rows to the end; from here on quotes are
                    // characters like others.
                    $this->notes[] = new Problem('intake_quote', 'file', $number + 1, ['row' => $number + 1]);
                    $quoted = false;
                    foreach ($open as $one) {
                        yield ++$number => $this->plain($one);
                    }
                    [$open, $cells, $cell] = [[], [], null];
                }

                continue;
            }
            $number++;
            if ($line !== '') {
                yield $number => $quoted ? explode($this->delimiter, $line) : $this->plain($line);
            }
        }
        if ($open !== []) {
            $this->notes[] = new Problem('intake_quote', 'file', $number + 1, ['row' => $number + 1]);
            foreach ($open as $one) {
                yield ++$number => $this->plain($one);
            }
        }
    }

    /** @return list<string> */
    private function plain(string $line): array
    {
        return array_map(static fn (string $c): string => trim($c, '"'), explode($this->delimiter, $line));
    }

    /**
     * Cells of a line with quotes in it. Blanks before a quote are left out, as spreadsheets do; a quote in the middle
     * of a cell is a letter. PHP's own reader is not asked: of a quote that stays open it makes bytes that nobody
     * wrote.
     *
     * @param  list<string>  $cells  those of the row so far
     * @param  string|null  $cell  the quoted cell that the line before ended in; afterwards the one that this line ends
     *     in
     */
    private function read(string $row, array &$cells, ?string &$cell): void
    {
        $at = 0;
        $inside = $cell !== null;
        $text = $inside ? "$cell\n" : '';
        $cell = null;
        do {
            $begin = $inside ? 0 : $at + strspn($row, ' ', $at);
            $isQuoted = $inside || ($row[$begin] ?? '') === '"';
            if ($isQuoted) {
                $at = $inside ? 0 : $begin + 1;
                while (($quote = strpos($row, '"', $at)) !== false && ($row[$quote + 1] ?? '') === '"') {
                    $text .= substr($row, $at, $quote + 1 - $at);
                    $at = $quote + 2;
                }
                if ($quote === false) {
                    $cell = $text.substr($row, $at);

                    return;
                }
                $text .= substr($row, $at, $quote - $at);
                $at = $quote + 1;
            }
            $end = strpos($row, $this->delimiter, $at);
            $rest = $end === false ? substr($row, $at) : substr($row, $at, $end - $at);
            $cells[] = $isQuoted && trim($rest) === '' ? $text : $text.$rest;
            $at = (int) $end + 1;
            $text = '';
            $inside = false;
        } while ($end !== false);
    }

    /** @return \Generator<string> without their ends, be those of Windows, Unix or the first Macintosh */
    private function lines(): \Generator
    {
        $rest = '';
        $by = null;
        while (! feof($this->stream)) {
            $rest .= (string) fread($this->stream, self::PIECE);
            $by ??= str_contains($rest, "\n") || ! str_contains($rest, "\r") ? "\n" : "\r";
            $lines = explode($by, $rest);
            $rest = array_pop($lines);
            foreach ($lines as $line) {
                yield $line !== '' && $line[-1] === "\r" ? substr($line, 0, -1) : $line;
            }
            if (strlen($rest) > $this->longest) {
                throw Refused::because('intake_line_long', 'file', null, ['most' => $this->longest >> 20]);
            }
        }
        if ($rest !== '') {
            yield $rest[-1] === "\r" ? substr($rest, 0, -1) : $rest;
        }
    }
}
