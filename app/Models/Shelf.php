<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * A folder for layers, maps and boards of a programme.
 *
 * @property int $id
 * @property int $programme_id
 * @property string $name
 */
class Shelf extends Model
{
    protected $table = 'shelves';

    protected $fillable = ['programme_id', 'name'];
}
