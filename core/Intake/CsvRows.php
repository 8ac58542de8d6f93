<?php

declare(strict_types=1);

namespace PinYard\Intake;

use PinYard\Problem;
use PinYard\Refused;

/** Rows of a CSV text in UTF-8, one after the other, in little memory. */
final class CsvRows
{
    /** Bytes of one row, with all its quoted line ends. */
    private const LONGEST = 4_194_304;

    /** @var list<Problem> what had to be corrected, each with its row */
    public array $notes = [];

    /** @param  resource  $stream  readable and seekable, standing at the first byte */
    public function __construct(private $stream, private readonly string $delimiter)
    {
    }

    /**
     * @return \Generator<int, list<string>> cells by the number of the row, the first being 1; blank rows are counted and left out
     *
     * @throws Refused where a row never ends
     */
    public function rows(): \Generator
    {
        $number = 0;
        $quote = '"';
        while (true) {
            $at = (int) ftell($this->stream);
            $cells = fgetcsv($this->stream, self::LONGEST, $this->delimiter, $quote, '');
            if (! is_array($cells)) {
                return;
            }
            $number++;
            $read = (int) ftell($this->stream) - $at;
            if ($read >= self::LONGEST - 1 || feof($this->stream) && $quote === '"' && $this->open($at)) {
                if ($quote !== '"') {
                    throw Refused::because('intake_line_long', 'file', null, ['most' => self::LONGEST >> 20]);
                }
                // A quote that is never closed would swallow all rows to the end; from here on quotes are characters like others.
                $this->notes[] = new Problem('intake_quote', 'file', $number, ['row' => $number]);
                fseek($this->stream, $at);
                $quote = "\0";
                $number--;

                continue;
            }
            if ($cells === [null]) {
                continue;
            }
            yield $number => $quote === '"' ? array_map(strval(...), $cells) : array_map(static fn (?string $c): string => trim((string) $c, '"'), $cells);
        }
    }

    /** Whether what stands from here to the end has an odd number of quotes. */
    private function open(int $from): bool
    {
        $end = (int) ftell($this->stream);
        fseek($this->stream, $from);
        $odd = substr_count((string) stream_get_contents($this->stream), '"') % 2 === 1;
        fseek($this->stream, $end);

        return $odd;
    }
}
