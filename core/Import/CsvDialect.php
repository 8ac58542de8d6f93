<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Problem;
use PinYard\Refused;

/**
 * How a CSV file was written: encoding, delimiter, and whether its first lines can be a table at all (RFC 4180, and the
 * habits of spreadsheets).
 */
final readonly class CsvDialect
{
    /** Bytes that are looked at. */
    public const HEAD = 1_048_576;

    private const DELIMITERS = [',', ';', "\t", '|'];

    private const ROWS = 20;

    /** @param  'UTF-8'|'UTF-16LE'|'UTF-16BE'|'WINDOWS-1252'  $encoding */
    private function __construct(public string $encoding, public int $mark, public string $delimiter)
    {
    }

    /**
     * @param  string  $head  the first {@see HEAD} bytes
     * @param  bool  $whole  whether that is all of the file
     *
     * @throws Refused for what is empty, no text, or one endless line
     */
    public static function of(string $head, bool $whole): self
    {
        if (trim($head, " \t\r\n\0\xEF\xBB\xBF\xFE\xFF") === '') {
            throw Refused::because('intake_empty', 'file');
        }
        [$encoding, $mark] = self::encoding($head, $whole);
        $text = self::utf8(substr($head, $mark), $encoding);
        if (str_contains($text, "\0")) {
            throw Refused::because('intake_no_text', 'file');
        }
        if (! $whole && strpbrk($text, "\r\n") === false) {
            throw Refused::because('intake_line_long', 'file', null, ['most' => self::HEAD >> 20]);
        }

        return new self($encoding, $mark, self::delimiter($text));
    }

    public static function utf8(string $bytes, string $encoding): string
    {
        return $encoding === 'UTF-8' ? $bytes : (string) mb_convert_encoding($bytes, 'UTF-8', $encoding);
    }

    /** What a person should know of how the file was read. */
    public function note(): ?Problem
    {
        return $this->encoding === 'UTF-8'
            ? null
            : new Problem('intake_encoding', 'file', $this->encoding, [
                'encoding' => $this->encoding === 'WINDOWS-1252' ? 'Latin-1 (Windows 1252)' : $this->encoding,
            ]);
    }

    /** @return array{'UTF-8'|'UTF-16LE'|'UTF-16BE'|'WINDOWS-1252', int} with the bytes of its mark */
    private static function encoding(string $head, bool $whole): array
    {
        if (str_starts_with($head, "\xEF\xBB\xBF")) {
            return ['UTF-8', 3];
        }
        if (str_starts_with($head, "\xFF\xFE")) {
            return ['UTF-16LE', 2];
        }
        if (str_starts_with($head, "\xFE\xFF")) {
            return ['UTF-16BE', 2];
        }
        // Without a mark: in western texts every second byte of UTF-16 is zero.
        $some = substr($head, 0, 2_000);
        $zeros = substr_count($some, "\0");
        if ($zeros * 3 > strlen($some)) {
            return [($some[1] ?? '') === "\0" ? 'UTF-16LE' : 'UTF-16BE', 0];
        }
        // A character may be cut at the end of what was read.
        $valid = mb_check_encoding(
            $whole ? $head : (string) preg_replace('/[\xC0-\xFF][\x80-\xBF]*$/D', '', $head),
            'UTF-8',
        );

        return [$valid ? 'UTF-8' : 'WINDOWS-1252', 0];
    }

    /** The one that parts the first lines into the same number of cells, the more the better. */
    private static function delimiter(string $text): string
    {
        $head = substr($text, 0, 65_536);
        // The last line may be cut.
        $end =
            strlen($text) > strlen($head)
                ? (int) max((int) strrpos($head, "\n"), (int) strrpos($head, "\r"))
                : strlen($head);
        $best = [0.0, ','];
        foreach (self::DELIMITERS as $by) {
            $counts = array_map(count(...), self::rows(substr($head, 0, $end), $by));
            $usual = max(array_count_values($counts === [] ? [1] : $counts));
            $width = array_search($usual, array_count_values($counts), true);
            $score = $width > 1 ? $usual / max(1, count($counts)) + $width / 1_000 : 0.0;
            if ($score > $best[0]) {
                $best = [$score, $by];
            }
        }

        return $best[1];
    }

    /**
     * The first rows, if this were the delimiter; cells may hold line ends and delimiters, so rows are read and not
     * just lines.
     *
     * @param  non-empty-string  $by
     * @return list<list<string>>
     */
    private static function rows(string $head, string $by): array
    {
        $stream = fopen('php://memory', 'w+b');
        if ($stream === false) {
            return [];
        }
        fwrite($stream, $head);
        rewind($stream);
        $rows = [];
        foreach ((new CsvRows($stream, $by))->rows() as $row) {
            $rows[] = $row;
            if (count($rows) === self::ROWS) {
                break;
            }
        }
        fclose($stream);

        return $rows;
    }
}
