<?php

declare(strict_types=1);

namespace Demo\Console;

use App\Models\Programme;
use App\Models\Role;
use Demo\BeachPicture;
use Demo\Morning;
use Demo\NestPatrol;
use Illuminate\Console\Command;
use PinYard\Record\RecordId;
use Random\Engine\Mt19937;
use Random\Randomizer;
use StandIns\Phones\Line;
use StandIns\Phones\Phone;
use StandIns\Phones\Walker;

/**
 * Simulated crews: they walk the demo's beaches, share their ways, make records and pictures, lose signal and find it
 * again.
 */
final class CrewWalk extends Command
{
    protected $signature = 'crew:walk {--crews=3} {--steps=40} {--pace=1 : seconds to wait for each step, which '
        .'stands for 45 seconds of a walk} {--seed=1} {--url= : of the running server}';

    protected $description = 'Let simulated crews walk and sync, through the real server';

    /** Seconds of a walk that a step stands for. */
    private const STEP = 45;

    public function handle(): int
    {
        $url = (string) ($this->option('url') ?? config('app.url'));
        $dice = new Randomizer(new Mt19937((int) $this->option('seed')));
        $programme = Programme::query()->where('name', NestPatrol::NAME)->firstOrFail();
        $steps = max(2, (int) $this->option('steps'));
        $walkers = [];
        foreach (
            $programme
                ->members()
                ->with('user')
                ->where('role', Role::Crew)
                ->orderBy('id')
                ->limit(max(1, (int) $this->option('crews')))
                ->get() as $i => $member
        ) {
            $phone = new Phone(new Line($url, $member->user->email, NestPatrol::PASSWORD), $member->user->name);
            $phone->line->signIn();
            $packs = array_column($phone->line->get('api/v1/packs'), null, 'programme');
            $layers = array_column($packs[$programme->id]['layers'], null, 'title');
            $lines = $phone->line->get("api/v1/layers/{$layers['Dawn walks']['id']}/records")['records'];
            $way = Morning::spread($lines[($i * 7) % count($lines)]['geometry']['coordinates']);
            $walkers[] = new Walker($phone, $way, $layers['Nests'], $programme->id);
        }
        for ($step = 0; $step < $steps; $step++) {
            foreach ($walkers as $walker) {
                $this->step($walker, $step, $steps, $dice);
            }
            usleep((int) (1e6 * (float) $this->option('pace')));
        }
        foreach ($walkers as $walker) {
            $walker->signal = true;
            for ($try = 0; $try === 0 || ($try < 100 && ! $walker->phone->isEmpty()); $try++) {
                $walker->sync();
            }
            // Once more, so that the desk hears that nothing waits any longer.
            $walker->sync();
            $this->line(
                "{$walker->phone->name}: {$walker->made} records, ".
                    count($walker->phone->outbox).
                    ' still on the phone',
            );
        }

        return self::SUCCESS;
    }

    private function step(Walker $walker, int $step, int $steps, Randomizer $dice): void
    {
        [$lon, $lat] = array_map(
            static fn (float $d): float => round($d + $dice->getInt(-3, 3) / 1e5, 6),
            $walker->at($step, $steps),
        );
        $at = microtime(true) - ($steps - 1 - $step) * max(0, self::STEP - (float) $this->option('pace'));
        $walker->passes($at, $lon, $lat, $dice->getInt(3, 9));
        if ($dice->getInt(0, 9) === 0) {
            $walker->signal = ! $walker->signal;
            $this->line(
                "{$walker->phone->name} ".
                    ($walker->signal ? 'has signal again' : 'has lost the signal').
                    ', '.
                    count($walker->phone->outbox).
                    ' to send',
            );
        }
        if ($dice->getInt(0, 6) === 0) {
            $code = 'W'.substr((string) (int) ($at * 10), -7).'-'.++$walker->made;
            $files =
                $dice->getInt(0, 1) === 0
                    ? [RecordId::make()->text => BeachPicture::draw($dice, $code, 'incubating')]
                    : [];
            $walker->phone->keep(
                [
                    'kind' => 'add',
                    'layer' => $walker->nests['id'],
                    'design' => $walker->nests['design_version'],
                    'geometry' => ['type' => 'Point', 'coordinates' => [$lon, $lat]],
                    'fix' => ['accuracy' => $dice->getInt(3, 9), 'at' => gmdate('Y-m-d\TH:i:s\Z', (int) $at)],
                    'values' => [
                        'nest_code' => $code,
                        'status' => 'incubating',
                        'species' => ['CC', 'CC', 'CM', 'EI'][$dice->getInt(0, 3)],
                        'laid_on' => gmdate('Y-m-d', (int) $at - 86_400),
                        'clutch_size' => $dice->getInt(70, 140),
                    ],
                ],
                $files,
                $at,
            );
        }
        $walker->sync();
    }
}
