<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Programmes\Usage;
use Illuminate\Http\JsonResponse;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use Illuminate\Support\Facades\Queue;
use OpenApi\Attributes as OA;

final class HealthController
{
    #[
        OA\Get(
            path: '/health',
            summary: 'Whether everything that the application needs answers',
            tags: ['Running'],
            responses: [
                new OA\Response(response: 200, description: 'All is well'),
                new OA\Response(response: 503, description: 'Something is away; the part says false'),
            ],
        ),
    ]
    public function __invoke(): JsonResponse
    {
        $parts = [
            'database' => self::answers(static fn (): bool => DB::selectOne('select 1 as one')->one === 1),
            'storage' => self::answers(self::writes(...)),
            'room' => self::answers(static fn (): bool => Usage::free() > Usage::RESERVE),
            'queue' => self::answers(static fn (): bool => Queue::size() >= 0),
        ];
        $well = ! in_array(false, $parts, true);

        return new JsonResponse(
            ['status' => $well ? 'ok' : 'down', ...$parts, 'version' => config('app.version')],
            $well ? 200 : 503,
        );
    }

    /** A disk that is full, or was mounted to be read alone, still says that it may be written. */
    private static function writes(): bool
    {
        $file = storage_path('app/tmp/health-'.bin2hex(random_bytes(6)));
        File::ensureDirectoryExists(dirname($file), 0o700);
        $wrote = @file_put_contents($file, 'well') === 4;
        @unlink($file);

        return $wrote;
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
