<?php

declare(strict_types=1);

namespace Demo\Console;

use App\Layers\LayerRows;
use App\Models\Programme;
use Demo\Morning;
use Demo\NestPatrol;
use Illuminate\Console\Command;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Wkb;
use StandIns\Receiver\Bridge;
use StandIns\Receiver\Simulator;

/**
 * A simulated receiver for the field app, walked along a beach of the demo; or sentences out of a file, one second
 * after the other.
 */
final class RunReceiver extends Command
{
    protected $signature = 'receiver:run {--socket=10110 : where the sentences come} {--events=10111 : where '
        .'browsers get fixes} {--file= : sentences that were kept, in place of the simulated ones} {--seed=1} '
            .'{--seconds=0 : how long, 0 for ever} {--pace=1 : seconds between two fixes}';

    protected $description = 'Stand in for a receiver: sentences on a socket, fixes for the field app';

    public function handle(): int
    {
        [$socket, $events] = [(int) $this->option('socket'), (int) $this->option('events')];
        $bridge = new Bridge($socket, $events);
        $this->line("sentences: 127.0.0.1:$socket   fixes for the field app: http://127.0.0.1:$events");
        $file = $this->option('file');
        $kept = is_string($file) ? self::seconds((string) file_get_contents($file)) : null;
        $simulator = new Simulator(self::way(), (int) $this->option('seed'));
        $most = (int) $this->option('seconds');
        for ($second = 0; $most === 0 || $second < $most; $second++) {
            if ($kept !== null && $second >= count($kept)) {
                break;
            }
            $bridge->pass($kept[$second] ?? $simulator->next(now()->toDateTimeImmutable()));
            usleep((int) (1e6 * (float) $this->option('pace')));
        }

        return self::SUCCESS;
    }

    /** @return list<string> what belongs to one fix, the place coming last */
    private static function seconds(string $text): array
    {
        return array_values(array_filter(preg_split('/(?<=\n)(?=\$..RMC)/', str_replace("\r\n", "\n", $text)) ?: []));
    }

    /** @return non-empty-list<array{float, float}> */
    private static function way(): array
    {
        $walks = Programme::query()
            ->where('name', NestPatrol::NAME)
            ->first()
            ?->layers()
            ->where('title', 'Dawn walks')
            ->first();
        $shape = $walks === null ? null : LayerRows::live($walks)->orderBy('id')->value('shape');
        $way = Morning::spread(Wkb::geoJson($shape, GeometryKind::Line)['coordinates'] ?? []);

        return $way === [] ? [[-11.6512, -14.1668], [-11.65, -14.165]] : $way;
    }
}
