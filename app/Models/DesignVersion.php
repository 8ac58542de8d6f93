<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;

/**
 * @property int $layer_id
 * @property int $version
 * @property array<string, mixed> $document
 * @property array<string, array<string, string>>|null $moves
 */
class DesignVersion extends Model
{
    protected $table = 'layer_designs';

    protected $primaryKey = 'version';

    public $incrementing = false;

    public $timestamps = false;

    protected $fillable = ['version', 'document', 'created_by', 'moves'];

    protected $casts = ['document' => 'array', 'moves' => 'array', 'version' => 'int'];
}
