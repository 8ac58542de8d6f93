<?php

declare(strict_types=1);

namespace App\Import;

use App\Programmes\Usage;
use PinYard\Refused;
use ZipArchive;

/** Unpacks what was sent as a zip: flat, under names of our own, and never more than it says it holds. */
final class Archive
{
    private const MOST_BYTES = 4_000_000_000;

    private const MOST_FILES = 20_000;

    /** So many times larger than packed is no table and no map: it is a bomb. */
    private const MOST_RATIO = 250;

    private const SUSPECT_BYTES = 100_000_000;

    /**
     * @return array<string, string> paths of the unpacked files by the names that they had, without folders
     *
     * @throws Refused
     */
    public static function unpack(string $zip, string $into): array
    {
        $archive = new ZipArchive;
        if ($archive->open($zip, ZipArchive::RDONLY) !== true) {
            throw Refused::because('intake_zip', 'file');
        }
        if ($archive->numFiles > self::MOST_FILES) {
            throw Refused::because('too_many', 'file', $archive->numFiles, [
                'count' => $archive->numFiles,
                'most' => self::MOST_FILES,
            ]);
        }
        $total = 0;
        for ($i = 0; $i < $archive->numFiles; $i++) {
            $stat = $archive->statIndex($i) ?: ['name' => '', 'size' => 0, 'comp_size' => 0, 'encryption_method' => 0];
            $total += $stat['size'];
            if (($stat['encryption_method'] ?? 0) !== 0) {
                throw Refused::because('intake_zip_password', 'file', $stat['name']);
            }
            if (preg_match('#(^|[/\\\\])\.\.([/\\\\]|$)|^[/\\\\]|^[A-Za-z]:#', $stat['name']) === 1) {
                throw Refused::because('intake_zip_path', 'file', $stat['name'], ['name' => mb_scrub($stat['name'])]);
            }
            if ($total + Usage::RESERVE > Usage::free()) {
                throw Refused::because('disk_full', 'files');
            }
            if (
                $total > self::MOST_BYTES ||
                ($stat['size'] > self::SUSPECT_BYTES && $stat['size'] > self::MOST_RATIO * max(1, $stat['comp_size']))
            ) {
                throw Refused::because('intake_zip_bomb', 'file', $stat['name'], ['name' => mb_scrub($stat['name'])]);
            }
        }
        @mkdir($into, 0o700, true);
        $files = [];
        for ($i = 0; $i < $archive->numFiles; $i++) {
            $stat = $archive->statIndex($i);
            $name = $stat === false ? '' : mb_scrub(basename($stat['name']));
            // Folders, and what one system puts into every archive for itself.
            if (
                $stat === false ||
                $name === '' ||
                str_ends_with($stat['name'], '/') ||
                str_starts_with($name, '.') ||
                str_contains($stat['name'], '__MACOSX/')
            ) {
                continue;
            }
            $from = $archive->getStreamIndex($i);
            $to = fopen($path = "$into/".count($files).self::extension($name), 'wb');
            if ($from === false || $to === false) {
                throw Refused::because('intake_zip', 'file', $name);
            }
            // Sizes in a zip are claims; what comes is counted.
            if (stream_copy_to_stream($from, $to, $stat['size'] + 1) > $stat['size']) {
                throw Refused::because('intake_zip_bomb', 'file', $name, ['name' => $name]);
            }
            fclose($to);
            while (isset($files[$name])) {
                $name = "_$name";
            }
            $files[$name] = $path;
        }
        $archive->close();

        return $files;
    }

    private static function extension(string $name): string
    {
        $extension = strtolower(pathinfo($name, PATHINFO_EXTENSION));

        return preg_match('/^[a-z0-9]{1,8}$/D', $extension) === 1 ? ".$extension" : '';
    }
}
