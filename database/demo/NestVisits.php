<?php

declare(strict_types=1);

namespace Demo;

use App\Designs\DesignStore;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Sync\SyncRound;
use Illuminate\Support\Carbon;
use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;
use Random\Randomizer;

/** Crews come back to their nests every few mornings; each visit is a record of its own. */
final class NestVisits
{
    private const EVERY_DAYS = 9;

    public static function layer(Programme $programme, Layer $nests, User $by): Layer
    {
        $choices = static fn (array $list): array => array_map(
            static fn (string $code, string $label): array => ['code' => $code, 'label' => $label],
            array_keys($list),
            $list,
        );
        $visits = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Nest visits',
                'purpose' => 'What a crew finds when it comes back to a nest.',
                'geometry' => 'point',
                'visits_of' => $nests->title,
                'name_field' => 'state',
                'fields' => [
                    [
                        'key' => 'state',
                        'label' => 'The nest is',
                        'kind' => 'one_choice',
                        'required' => true,
                        'choices' => $choices([
                            'calm' => 'Undisturbed',
                            'dug' => 'Dug at',
                            'washed' => 'Washed over',
                            'opening' => 'Opening',
                        ]),
                    ],
                    [
                        'key' => 'sand',
                        'label' => 'Sand at 40 cm',
                        'kind' => 'decimal',
                        'unit' => '°C',
                        'decimals' => 1,
                        'limits' => ['lowest' => 22, 'highest' => 37, 'outside' => 'ask'],
                    ],
                    [
                        'key' => 'tracks',
                        'label' => 'Hatchling tracks',
                        'kind' => 'whole_number',
                        'limits' => ['lowest' => 0, 'highest' => 200],
                        'show_when' => 'state == "opening"',
                    ],
                    ['key' => 'remark', 'label' => 'Remark', 'kind' => 'long_text', 'most' => 300],
                ],
                'photos' => ['allowed' => true, 'most' => 2],
                'slots' => [
                    [
                        'key' => 'sound',
                        'label' => 'Sound from the nest',
                        'kind' => 'audio',
                        'hint' => 'Half a minute, when they dig',
                    ],
                ],
                'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'own', 'delete' => 'own']],
            ]),
            $by,
        );
        // Now that there are visits and sectors, the nests' own form may speak of them.
        $document = $nests->design()->toArray();
        $at = array_search('threats', array_column($document['fields'], 'key'), true);
        array_splice($document['fields'], (int) $at + 1, 0, [
            ['key' => 'times_seen', 'label' => 'Visits', 'kind' => 'calculated', 'formula' => 'visits()'],
            [
                'key' => 'last_state',
                'label' => 'At the last visit',
                'kind' => 'calculated',
                'formula' => 'latest_visit("state") == "calm" ? "undisturbed" : latest_visit("state") == "dug" ? '
                    .'"dug at" : latest_visit("state") == "washed" ? "washed over" : latest_visit("state") == '
                        .'"opening" ? "opening" : null',
            ],
        ]);
        $document['fields'][] = [
            'key' => 'lies_in',
            'label' => 'Lies in',
            'kind' => 'calculated',
            'formula' => 'area_of("Beach sectors")',
        ];
        $nests->unsetRelations();
        DesignStore::saveNext($nests, LayerDesign::fromArray($document, $nests->neighbours()), 1, $by);

        return $visits;
    }

    /**
     * The visits to the nests that a person found.
     *
     * @param  list<array{user: User, operation: array<string, mixed>, pictures: array<string, string>}>  $mornings
     */
    public static function make(Randomizer $dice, Layer $visits, array $mornings): void
    {
        $rounds = [];
        foreach ($mornings as ['user' => $user, 'operation' => $nest]) {
            $status = $nest['values']['status'];
            for (
                $day = Carbon::parse($nest['captured_at'])->addDays($dice->getInt(5, self::EVERY_DAYS)), $n = 0;
                $day->lessThan(now()->subHours(2)) && $n < 8;
                $n++, $day = $day->addDays(self::EVERY_DAYS + $dice->getInt(-2, 3))
            ) {
                $last = $day->copy()->addDays(self::EVERY_DAYS)->greaterThan(now());
                $state = match (true) {
                    $status === 'opened' && $n > 5 => 'opening',
                    $status === 'lost' && $last => $dice->getInt(0, 1) === 1 ? 'dug' : 'washed',
                    $dice->getInt(1, 100) <= 6 => 'dug',
                    default => 'calm',
                };
                $rounds[$day->toDateString()][$user->id][] = [
                    'user' => $user,
                    'operation' => [
                        'op' => RecordId::make()->text,
                        'kind' => 'add',
                        'seq' => count($rounds),
                        'layer' => $visits->id,
                        'design' => 1,
                        'record' => RecordId::make()->text,
                        'visited' => $nest['record'],
                        'captured_at' => $day
                            ->copy()
                            ->setTime(5 + $dice->getInt(0, 2), $dice->getInt(0, 59))
                            ->format('Y-m-d\TH:i:s\Z'),
                        'geometry' => $nest['geometry'],
                        'fix' => ['accuracy' => $dice->getInt(25, 80) / 10],
                        'photos' => [],
                        'values' => array_filter(
                            [
                                'state' => $state,
                                'sand' => $dice->getInt(260, 335) / 10,
                                'tracks' => $state === 'opening' ? $dice->getInt(4, 90) : null,
                                'remark' => $state === 'dug' ? 'Ghost crab burrow beside the stake' : null,
                            ],
                            static fn (mixed $v): bool => $v !== null,
                        ),
                    ],
                ];
            }
        }
        ksort($rounds);
        foreach ($rounds as $people) {
            foreach ($people as $walk) {
                Carbon::setTestNow(
                    Carbon::parse($walk[0]['operation']['captured_at'])
                        ->addHours(3)
                        ->min(Carbon::createFromTimestamp(time())),
                );
                foreach (
                    SyncRound::for($walk[0]['user'], RecordId::make()->text)
                        ->take(array_column($walk, 'operation')) as $answer
                ) {
                    if ($answer['outcome'] !== 'applied') {
                        throw new \LogicException('The demo is refused by its own design: '.json_encode($answer));
                    }
                }
            }
        }
        Carbon::setTestNow();
    }
}
