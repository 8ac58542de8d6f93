<?php

declare(strict_types=1);

namespace App\Answers;

use PinYard\Design\LayerDesign;

/**
 * Designs with all their formulas read, kept so that a request need not read them again (a fortieth of the time). A
 * design is that of one version of one layer, and of what the programme's other layers were when it was read.
 */
final class CompiledDesigns
{
    private const KIND = 'designs';

    /**
     * @param  int  $designs  another number whenever a design of the layer's programme becomes another
     * @param  \Closure(): LayerDesign  $read
     */
    public static function of(int $layer, int $version, int $designs, \Closure $read): LayerDesign
    {
        // A release may know designs of another shape.
        $name = "$layer|$version|$designs|".config('app.version').'|'.self::code();
        $kept = KeptFiles::get(self::KIND, $name);
        $design = $kept === null ? null : @unserialize($kept);
        if (! $design instanceof LayerDesign) {
            $design = $read();
            KeptFiles::put(self::KIND, $name, serialize($design));
        }

        return $design;
    }

    /** Changes with the classes that are kept; while one works on them no old ones come back. */
    private static function code(): int
    {
        static $code;

        return $code ??= array_sum(array_map(
            static fn (string $of): int => (int) filemtime(base_path("core/$of")),
            ['Design', 'Design/LayerDesign.php', 'Formula'],
        ));
    }
}
