<?php

declare(strict_types=1);

namespace App\Documents;

use Illuminate\Http\Request;
use PinYard\Merge\DocumentMerge;
use PinYard\Problem;
use PinYard\Refused;

/**
 * What a change makes of a document that may have become another meanwhile: `was` says what the parts that it changes
 * were when it was begun. Without it, what comes counts.
 */
final class MergedInput
{
    /**
     * @param  array<string, mixed>  $now  the document as it stands, under the lock of its row
     * @param  list<string>  $parts
     * @return array<string, mixed> the parts that came, merged
     *
     * @throws Refused where both changed one value to something else; `theirs` says to what
     */
    public static function of(Request $request, array $now, array $parts): array
    {
        return self::merge($request->json()->all(), $now, $parts);
    }

    /**
     * @param  array<mixed>  $in
     * @param  array<string, mixed>  $now
     * @param  list<string>  $parts
     * @return array<string, mixed>
     *
     * @throws Refused
     */
    public static function merge(array $in, array $now, array $parts): array
    {
        $was = is_array($in['was'] ?? null) ? $in['was'] : [];
        $merged = $problems = [];
        foreach ($parts as $part) {
            if (! array_key_exists($part, $in)) {
                continue;
            }
            $merged[$part] = $in[$part];
            if (array_key_exists($part, $was)) {
                $merge = DocumentMerge::of($was[$part], $now[$part] ?? null, $in[$part], $part);
                $merged[$part] = $merge->merged;
                foreach ($merge->clashes as $clash) {
                    $problems[] = new Problem('changed_meanwhile', $part, null, [
                        'part' => $clash['path'],
                        'theirs' => is_scalar($clash['theirs'])
                            ? (string) $clash['theirs']
                            : json_encode($clash['theirs'], JSON_UNESCAPED_UNICODE),
                        'now' => json_encode($now[$part] ?? null, JSON_UNESCAPED_UNICODE),
                    ]);
                }
            }
        }

        return $problems === [] ? $merged : throw Refused::for($problems);
    }
}
