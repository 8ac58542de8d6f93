<?php

declare(strict_types=1);

namespace Tests;

use App\Designs\DesignStore;
use App\Maps\MapLayers;
use App\Models\Audience;
use App\Models\Board;
use App\Models\ChoiceList;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Rights\Viewer;
use Illuminate\Support\Str;
use PinYard\Carto\LayerOnMap;
use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;

/** Makes what a test needs: people, a programme, a layer, operations, pictures. */
trait Yard
{
    protected function person(string $name = 'Someone'): User
    {
        return User::query()->create([
            'name' => $name,
            'email' => Str::random(12).'@example.test',
            'password' => 'a-long-password',
        ]);
    }

    protected function programme(?User $coordinator = null): Programme
    {
        $programme = Programme::query()->create([
            'name' => 'P '.Str::random(5),
            'purpose' => '',
            'time_zone' => 'Atlantic/St_Helena',
            'west' => -12,
            'south' => -15,
            'east' => -11,
            'north' => -14,
        ]);
        $programme
            ->members()
            ->create(['user_id' => ($coordinator ?? $this->person())->id, 'role' => Role::Coordinator]);

        return $programme;
    }

    protected function crew(Programme $programme): User
    {
        return $this->member($programme, Role::Crew);
    }

    protected function member(Programme $programme, Role $role): User
    {
        $user = $this->person(ucfirst($role->value));
        $programme->members()->create(['user_id' => $user->id, 'role' => $role]);

        return $user;
    }

    protected function layer(Programme $programme, array $change = []): Layer
    {
        return DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray(
                array_replace(
                    [
                        'title' => 'Nests',
                        'purpose' => '',
                        'geometry' => 'point',
                        'fields' => [
                            [
                                'key' => 'code',
                                'label' => 'Code',
                                'kind' => 'short_text',
                                'required' => true,
                                'most' => 12,
                            ],
                            [
                                'key' => 'clutch',
                                'label' => 'Clutch',
                                'kind' => 'whole_number',
                                'limits' => ['lowest' => 1, 'highest' => 250],
                            ],
                            [
                                'key' => 'species',
                                'label' => 'Species',
                                'kind' => 'one_choice',
                                'required' => true,
                                'choices' => [
                                    ['code' => 'CC', 'label' => 'Loggerhead'],
                                    ['code' => 'CM', 'label' => 'Green'],
                                ],
                            ],
                            ['key' => 'laid_on', 'label' => 'Laid on', 'kind' => 'date'],
                        ],
                        'photos' => ['allowed' => true, 'most' => 3],
                    ],
                    $change,
                ),
            ),
            null,
        );
    }

    protected function choiceList(
        Programme $programme,
        array $choices = [['code' => 'N', 'label' => 'North'], ['code' => 'S', 'label' => 'South']],
    ): ChoiceList {
        $list = new ChoiceList(['title' => 'Sides', 'choices' => $choices, 'version' => 1]);
        $list->programme()->associate($programme);
        $list->save();

        return $list;
    }

    protected function add(Layer $layer, array $change = []): array
    {
        static $seq = 0;

        return array_replace(
            [
                'op' => RecordId::make()->text,
                'kind' => 'add',
                'seq' => ++$seq,
                'layer' => $layer->id,
                'design' => $layer->design_version,
                'record' => RecordId::make()->text,
                'captured_at' => now()->format('Y-m-d\TH:i:s.v\Z'),
                'values' => ['code' => "N-$seq", 'species' => 'CC'],
                'geometry' => ['type' => 'Point', 'coordinates' => [-11.5, -14.5]],
                'fix' => ['accuracy' => 4.0, 'at' => null],
                'photos' => [],
            ],
            $change,
        );
    }

    /** An operation on a record that is there: what was changed, and what that replaced. */
    protected function changeOf(Layer $layer, string $record, array $values, array $was, array $more = []): array
    {
        return $this->add($layer, [
            'kind' => 'change',
            'record' => $record,
            'base' => 1,
            'values' => $values,
            'was' => $was,
            'geometry' => null,
            ...$more,
        ]);
    }

    /** @param  list<mixed>  $operations */
    protected function sync(User $user, array $operations, array $cursors = [], ?string $device = null): array
    {
        return $this->actingAs($user)
            ->postJson('/api/v1/sync', [
                'device' => $device ?? RecordId::make()->text,
                'operations' => $operations,
                'cursors' => (object) $cursors,
            ])
            ->assertOk()
            ->json();
    }

    /**
     * A map of one layer.
     *
     * @param  array<string, mixed>  $part  what it says of the layer
     */
    protected function mapOf(
        Layer $layer,
        array $part = [],
        Audience $to = Audience::Programme,
        string $title = 'M',
    ): Map {
        $on = LayerOnMap::read(
            $part + ['look' => ['kind' => 'single'], 'card' => ['fields' => [], 'photos' => false]],
            $layer->id,
            $layer->design(),
            'layers/0',
        );
        $map = $layer->programme->maps()->make([
            'title' => $title,
            'layers' => [MapLayers::stored($on, $layer)],
            'extent' => [-12, -15, -11, -14],
        ]);
        $map->openTo($to);

        return $map;
    }

    /** @return list<array<string, mixed>> the features that a part of a map draws, as whoever is asking gets them */
    protected function drawn(string $base, int $part = 0): array
    {
        $layer = $this->getJson($base.(str_contains($base, '/open/') ? '' : '/view'))->assertOk()->json("layers.$part");

        return $this->getJson("$base/layers/{$layer['id']}/features.geojson?v={$layer['version']}")
            ->assertOk()
            ->json('features');
    }

    /** The id by which whoever holds the link of a thing knows a record or a file. */
    protected function behindLink(Map|Board $thing, string $id): string
    {
        return Viewer::link($thing)->idOf(RecordId::of($id)->bytes());
    }

    /** @return string a JPEG of noise, so that its size is near what was asked for */
    protected function jpeg(int $width = 320, int $height = 240): string
    {
        $image = imagecreatetruecolor($width, $height);
        for ($i = 0; $i < 400; $i++) {
            [$x, $y] = [random_int(0, $width), random_int(0, $height)];
            imagefilledrectangle(
                $image,
                $x,
                $y,
                $x + random_int(0, 60),
                $y + random_int(0, 60),
                random_int(0, 0xFFFFFF),
            );
        }
        ob_start();
        imagejpeg($image, null, 90);

        return (string) ob_get_clean();
    }

    protected function announce(string $bytes, array $change = []): array
    {
        return array_replace(
            [
                'id' => RecordId::make()->text,
                'name' => 'nest.jpg',
                'type' => 'image/jpeg',
                'bytes' => strlen($bytes),
                'sha256' => hash('sha256', $bytes),
            ],
            $change,
        );
    }

    /** Where the API has what a board’s link leads to: `/boards/<token>`. */
    protected function linkOf(array $board): string
    {
        return '/boards/'.substr((string) $board['address'], strlen('/b/'));
    }
}
