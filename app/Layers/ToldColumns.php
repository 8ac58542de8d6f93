<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use Illuminate\Database\Schema\Blueprint;

/**
 * What a place that is told by its cell is made of, for each record. MariaDB works it out when a record is written, not
 * for each row that is read: the hash alone takes longer than reading the row. Nobody who reads all columns gets them.
 */
final class ToldColumns
{
    /** A whole number of 32 bits: where in its cell a record is told to be. */
    public const HASH = 'told_hash';

    /** How far down it lies in the Mercator square: 0 at its northern edge, 1 at its southern. */
    public const DOWN = 'told_down';

    /** Just within the Mercator square: what lies beyond is in its first and its last row of cells. */
    private const EDGE = '85.0511287798e0';

    public static function add(Blueprint $table, int $layer): void
    {
        $table->unsignedInteger(self::HASH)->storedAs(self::hash($layer))->invisible();
        $table->double(self::DOWN)->storedAs(self::down())->invisible();
    }

    /** SQL of {@see HASH} for rows of this layer that may be others than those of its table, such as of a past day. */
    public static function hashOf(Layer $layer): string
    {
        return $layer->stands() === null ? self::HASH : self::hash($layer->id);
    }

    /** SQL of {@see DOWN}, likewise. */
    public static function downOf(Layer $layer): string
    {
        return $layer->stands() === null ? self::DOWN : self::down();
    }

    /**
     * By a key of ours and the layer's, so that nothing of an id is told. CRC-32 makes a number of what MD5 gives at
     * less cost than reading it as one does; by itself it would tell the order in which ids were made, for it only
     * moves their bits.
     */
    private static function hash(int $layer): string
    {
        $key = hash_hkdf('sha256', (string) config('app.key'), 16, "places of layer $layer");

        return sprintf("crc32(md5(concat(x'%s', id)))", bin2hex($key));
    }

    /** Numbers are written as doubles: decimals are ten times slower. */
    private static function down(): string
    {
        return sprintf(
            '0.5e0 - ln(tan(%s + %s * least(greatest(lat, -%3$s), %3$s))) / %4$s',
            self::number(M_PI_4),
            self::number(M_PI / 360),
            self::EDGE,
            self::number(2 * M_PI),
        );
    }

    private static function number(float $number): string
    {
        return sprintf('%.17e', $number);
    }
}
