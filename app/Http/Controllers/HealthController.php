<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use OpenApi\Attributes as OA;

final class HealthController
{
    #[OA\Get(path: '/health', summary: 'Whether everything that the application needs answers', tags: ['Running'], responses: [
        new OA\Response(response: 200, description: 'All is well'), new OA\Response(response: 503, description: 'Something is away; the part says false'),
    ])]
    public function __invoke(): JsonResponse
    {
        $parts = [
            'database' => self::answers(static fn (): bool => DB::selectOne('select 1 as one')->one === 1),
            'storage' => self::answers(static fn (): bool => is_writable(storage_path())),
            'queue' => self::answers(static fn (): bool => Queue::size() >= 0),
        ];
        $well = ! in_array(false, $parts, true);

        return new JsonResponse(['status' => $well ? 'ok' : 'down', ...$parts, 'version' => config('app.version')], $well ? 200 : 503);
    }

    /** @param  callable(): bool  $ask */
    private static function answers(callable $ask): bool
    {
        try {
            return $ask();
        } catch (\Throwable) {
            return false;
        }
    }
}
