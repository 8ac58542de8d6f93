<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * @property int $id
 * @property int $programme_id
 * @property string $name
 */
class Crew extends Model
{
    protected $table = 'crews';

    protected $fillable = ['name'];
}
