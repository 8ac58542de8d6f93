<?php

declare(strict_types=1);

namespace Demo;

use App\Designs\DesignStore;
use App\Files\FileArrival;
use App\Models\Attachment;
use App\Models\Layer;
use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\Models\Upload;
use App\Models\User;
use App\Records\Acceptance;
use App\Records\Cause;
use App\Records\RecordWriter;
use App\Sync\SyncRound;
use Illuminate\Support\Carbon;
use Illuminate\Support\Str;
use PinYard\Record\RecordId;
use Random\Engine\Mt19937;
use Random\Randomizer;

/**
 * The demo: a season of sea-turtle nests on the Halcyon Cays. People, places and numbers are made up, from a fixed
 * seed; days count back from today, so that the season is always under way. Records go in by the same sync round that
 * phones use.
 */
final class NestPatrol
{
    public const NAME = 'Nest Patrol';

    public const COORDINATOR = 'mara@example.test';

    public const CREW = 'ines@example.test';

    public const PASSWORD = 'halcyon-cays';

    private const NESTS = 340;

    private const SEASON_DAYS = 78;

    /** Crew, people, the sectors that they walk. */
    private const CREWS = [
        ['Sanderling', ['Ines Calder', 'Tomas Wray'], ['GH1', 'GH2', 'GH3']],
        ['Turnstone', ['Ruth Amadi', 'Jory Penn'], ['GH4', 'GH5', 'GH6']],
        ['Whimbrel', ['Lena Osk', 'Pavel Dunne'], ['GH7', 'GH8', 'GH9']],
        ['Dunlin', ['Sefa Lindqvist', 'Noor Haddow'], ['MC1', 'MC2', 'MC3']],
        ['Plover', ['Bram Ekele', 'Uma Treacher'], ['MC4', 'MC5', 'MC6']],
        ['Noddy', ['Wim Sorrel', 'Ada Kestle'], ['PR1', 'PR2', 'PR3', 'PR4', 'LD1', 'LD2']],
    ];

    public static function fill(): void
    {
        $dice = new Randomizer(new Mt19937(20261124));
        $mara = User::query()->firstOrCreate(
            ['email' => self::COORDINATOR],
            ['name' => 'Mara Oduya', 'password' => self::PASSWORD],
        );
        $programme = Programme::query()->create([
            'name' => self::NAME,
            'purpose' => 'Find and guard every turtle nest of the season on the Halcyon Cays.',
            'time_zone' => 'Atlantic/St_Helena',
            'west' => -11.775,
            'south' => -14.315,
            'east' => -11.5,
            'north' => -14.075,
        ]);
        CaysPlaces::fill($programme);
        $programme->members()->create(['user_id' => $mara->id, 'role' => Role::Coordinator]);
        $layer = DesignStore::createLayer($programme, NestDesign::make(), $mara);
        BeachShapes::sectors($programme, $mara, self::beaches());
        $visits = NestVisits::layer($programme, $layer, $mara);
        $layer = $layer->fresh() ?? throw new \LogicException('the layer is gone');
        $mornings = [];
        $walkers = [];
        foreach (self::CREWS as $i => [$name, $people, $sectors]) {
            $crew = $programme->crews()->create(['name' => $name]);
            foreach ($people as $j => $person) {
                $user = User::query()->firstOrCreate(
                    ['email' => strtolower(explode(' ', $person)[0]).'@example.test'],
                    ['name' => $person, 'password' => self::PASSWORD],
                );
                $programme->members()->create(['user_id' => $user->id, 'role' => Role::Crew, 'crew_id' => $crew->id]);
                $nests = intdiv(self::NESTS, 12) + ($i * 2 + $j < self::NESTS % 12 ? 1 : 0);
                array_push($mornings, ...self::season($dice, $layer, $user, $sectors, $nests));
                $walkers[] = [$user, $sectors];
            }
        }
        $walks = BeachShapes::walks($dice, $programme, $mara, self::beaches(), $walkers);
        self::deliverInOrder($mornings);
        NestVisits::make($dice, $visits, $mornings);
        DawnTrails::walk($dice, $programme, $walkers, self::beaches());
        NestThings::publish($programme, $layer->refresh(), self::beaches());
        Season::around($programme, $layer, $mara);
        self::freshStart($mara);
        Morning::fill($programme, $layer->refresh(), $walks->refresh());
        DawnAlerts::make($programme->refresh(), $layer->refresh());
        DemoGroups::make($programme, $layer->refresh());
        self::accept($programme, $mara);
        Doubts::look($layer->refresh());
    }

    /** What came in until the day before yesterday has been looked at. */
    private static function accept(Programme $programme, User $mara): void
    {
        $until = $programme->now()->subDays(2)->toDateString();
        foreach ($programme->layers()->get() as $layer) {
            (new Acceptance($mara, $layer, true))->all(
                [$layer->filter(['all' => [['field' => 'collected_at', 'test' => 'until', 'value' => $until]]])],
                $layer->change_number,
            );
            // That was before the others came, so they are the newest.
            RecordWriter::locked(
                $layer->id,
                Cause::Checked,
                $mara->id,
                static fn (RecordWriter $w): int => $w->accept($w->records()->whereNull('accepted_at'), null),
            );
        }
    }

    /**
     * Sends the mornings of all crews in the order of days, so that arrival times and histories are those of a season.
     *
     * @param  list<array{user: User, operation: array<string, mixed>, pictures: array<string, string>}>  $mornings
     */
    private static function deliverInOrder(array $mornings): void
    {
        usort(
            $mornings,
            static fn (array $a, array $b): int => $a['operation']['captured_at'] <=> $b['operation']['captured_at'],
        );
        $mornings = Doubts::cast($mornings);
        $devices = [];
        foreach ($mornings as ['user' => $user, 'operation' => $operation, 'pictures' => $pictures]) {
            Carbon::setTestNow(
                Carbon::parse($operation['captured_at'])->addMinutes(35)->min(Carbon::createFromTimestamp(time())),
            );
            $devices[$user->id] ??= RecordId::make()->text;
            [$answer] = SyncRound::for($user, $devices[$user->id])->take([$operation]);
            if ($answer['outcome'] !== 'applied') {
                throw new \LogicException('The demo is refused by its own design: '.json_encode($answer));
            }
            foreach ($pictures as $id => $bytes) {
                self::deliver($user, $id, $bytes);
            }
        }
        Carbon::setTestNow();
        foreach ($devices as $user => $_) {
            Member::query()
                ->where('user_id', $user)
                ->update([
                    'last_heard_at' => now()->subMinutes(($user * 17) % 190),
                    'waiting' => $user % 5 === 0 ? $user % 7 : 0,
                ]);
        }
    }

    /**
     * One person's nests of the season.
     *
     * @param  list<string>  $sectors
     * @return list<array{user: User, operation: array<string, mixed>, pictures: array<string, string>}>
     */
    private static function season(Randomizer $dice, Layer $layer, User $user, array $sectors, int $nests): array
    {
        $beaches = self::beaches();
        $mornings = [];
        for ($n = 0; $n < $nests; $n++) {
            $code = $sectors[$dice->getInt(0, count($sectors) - 1)];
            $beach = $beaches[$code];
            [$lon, $lat] = $beach['points'][$dice->getInt(0, count($beach['points']) - 1)];
            $age = $dice->getInt(0, self::SEASON_DAYS);
            $status = self::status($dice, $age);
            $clutch = $dice->getInt(1, 100) <= 82 ? $dice->getInt(64, 158) : null;
            $shells = $clutch === null ? null : (int) round(($clutch * $dice->getInt(48, 94)) / 100);
            $laid = now()->subDays($age + 1);
            $name = sprintf('%s-%s%02d', $code, $user->name[0], $n + 1);
            $photos = [];
            $pictures = [];
            if ($dice->getInt(1, 100) <= 38) {
                $bytes = BeachPicture::draw($dice, $name, $status);
                $id = RecordId::make()->text;
                $pictures[$id] = $bytes;
                $photos[] = [
                    'id' => $id,
                    'name' => "$code-$n.jpg",
                    'type' => 'image/jpeg',
                    'bytes' => strlen($bytes),
                    'sha256' => hash('sha256', $bytes),
                ];
            }
            $mornings[] = [
                'user' => $user,
                'pictures' => $pictures,
                'operation' => [
                    'op' => RecordId::make()->text,
                    'kind' => 'add',
                    'seq' => $n,
                    'layer' => $layer->id,
                    'design' => $layer->design_version,
                    'record' => RecordId::make()->text,
                    'captured_at' => $laid
                        ->addDay()
                        ->setTime(5 + $dice->getInt(0, 2), $dice->getInt(0, 59))
                        ->min(now()->subMinutes(4))
                        ->format('Y-m-d\TH:i:s\Z'),
                    'geometry' => ['type' => 'Point', 'coordinates' => [$lon, $lat]],
                    'fix' => ['accuracy' => $dice->getInt(20, 90) / 10],
                    'values' => [
                        'nest_code' => $name,
                        'status' => $status,
                        'species' => self::pick($dice, ['CC' => 52, 'CM' => 34, 'EI' => 11, 'UN' => 3]),
                        'laid_on' => $laid->toDateString(),
                        'clutch_size' => $clutch,
                        'threats' => array_values(
                            array_filter(
                                ['tide', 'crabs', 'dogs', 'light', 'people'],
                                static fn (): bool => $dice->getInt(1, 100) <= 12,
                            ),
                        ),
                        'shells' => $status === 'opened' ? $shells : null,
                        'unhatched' => $status === 'opened' && $shells !== null ? $clutch - $shells : null,
                        'left_inside' => $status === 'opened' && $shells !== null ? $dice->getInt(0, min(9, $shells))
                            : null,
                        'sector' => $beach['name'],
                        'note' => self::pick($dice, [
                            '' => 70,
                            'Close to the tide line' => 10,
                            'Light from the road' => 6,
                            'Ghost crab burrows near' => 8,
                            'Moved above the wrack line' => 6,
                        ]) ?:
                            null,
                    ],
                    'photos' => $photos,
                ],
            ];
        }

        return $mornings;
    }

    private static function deliver(User $user, string $id, string $bytes): void
    {
        $photo = Attachment::query()->findOrFail(RecordId::of($id)->bytes());
        $upload = Upload::query()->create([
            'id' => (string) Str::uuid7(),
            'attachment_id' => $photo->id,
            'user_id' => $user->id,
            'length' => strlen($bytes),
            'expires_at' => now()->addDay(),
        ]);
        if (! is_dir(dirname($upload->file()))) {
            mkdir(dirname($upload->file()), 0o700, true);
        }
        file_put_contents($upload->file(), $bytes);
        FileArrival::finish($upload, $photo);
    }

    private static function status(Randomizer $dice, int $age): string
    {
        if ($dice->getInt(1, 100) <= 6) {
            return 'lost';
        }

        return $age > 58 ? 'opened' : ($age > 49 ? 'due' : 'incubating');
    }

    /** @param  array<array-key, int>  $weights */
    private static function pick(Randomizer $dice, array $weights): string
    {
        $roll = $dice->getInt(1, array_sum($weights));
        foreach ($weights as $value => $weight) {
            if (($roll -= $weight) <= 0) {
                return (string) $value;
            }
        }

        return '';
    }

    /** A second, tiny programme shows what a fresh start looks like. */
    private static function freshStart(User $mara): void
    {
        $programme = Programme::query()->create([
            'name' => 'Lamp Watch',
            'purpose' => 'Find the lights that lead hatchlings away from the sea.',
            'time_zone' => 'Atlantic/St_Helena',
            'west' => -11.72,
            'south' => -14.22,
            'east' => -11.62,
            'north' => -14.14,
        ]);
        $programme->members()->create(['user_id' => $mara->id, 'role' => Role::Coordinator]);
    }

    /**
     * @return array<string, array{code: string, name: string, isle: string, points: non-empty-list<array{float,
     *     float}>}>
     */
    private static function beaches(): array
    {
        static $beaches = null;

        return $beaches ??= array_column(
            (array) json_decode((string) file_get_contents(__DIR__.'/cays/beaches.json'), true),
            null,
            'code',
        );
    }
}
