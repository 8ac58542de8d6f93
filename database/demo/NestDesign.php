<?php

declare(strict_types=1);

namespace Demo;

use PinYard\Design\LayerDesign;

/** What is written down of a nest: the design of the demo's main layer. */
final class NestDesign
{
    public static function make(): LayerDesign
    {
        $choices = static fn (array $list): array => array_map(
            static fn (string $code, string $label): array => ['code' => $code, 'label' => $label],
            array_keys($list),
            $list,
        );

        return LayerDesign::fromArray([
            'title' => 'Nests',
            'purpose' => 'Every nest of the season, from the night it was laid until it has opened or is lost.',
            'geometry' => 'point',
            'name_field' => 'nest_code',
            'fields' => [
                [
                    'key' => 'nest_code',
                    'label' => 'Nest code',
                    'kind' => 'short_text',
                    'required' => true,
                    'most' => 12,
                    'hint' => 'As on the stake, such as GH3-014',
                ],
                [
                    'key' => 'status',
                    'label' => 'Status',
                    'kind' => 'one_choice',
                    'required' => true,
                    'choices' => $choices([
                        'incubating' => 'Incubating',
                        'due' => 'Due to open',
                        'lost' => 'Lost',
                        'opened' => 'Opened',
                    ]),
                ],
                [
                    'key' => 'species',
                    'label' => 'Species',
                    'kind' => 'one_choice',
                    'required' => true,
                    'choices' => $choices([
                        'CC' => 'Loggerhead',
                        'CM' => 'Green',
                        'EI' => 'Hawksbill',
                        'UN' => 'Not sure',
                    ]),
                ],
                [
                    'key' => 'laid_on',
                    'label' => 'Laid on',
                    'kind' => 'date',
                    'limits' => ['highest' => 'today'],
                    'hint' => 'The night before, if the track is fresh',
                ],
                [
                    'key' => 'days_out',
                    'label' => 'Days since laid',
                    'kind' => 'calculated',
                    'formula' => 'status == "opened" or status == "lost" ? null : age(laid_on, "days")',
                ],
                [
                    'key' => 'clutch_size',
                    'label' => 'Clutch size',
                    'kind' => 'whole_number',
                    'limits' => ['lowest' => 40, 'highest' => 180, 'outside' => 'ask'],
                    'unit' => 'eggs',
                    'hint' => 'Count again if under 40',
                ],
                [
                    'key' => 'threats',
                    'label' => 'Threats',
                    'kind' => 'several_choices',
                    'choices' => $choices([
                        'tide' => 'High tide',
                        'crabs' => 'Ghost crabs',
                        'dogs' => 'Dogs',
                        'light' => 'Lights',
                        'people' => 'Footfall',
                    ]),
                ],
                [
                    'key' => 'dug_out',
                    'label' => 'The dug-out nest',
                    'kind' => 'heading',
                    'hint' => 'Counted after it has opened',
                    'show_when' => 'status == "opened"',
                ],
                [
                    'key' => 'shells',
                    'label' => 'Empty shells',
                    'kind' => 'whole_number',
                    'limits' => ['lowest' => 0, 'highest' => 250],
                    'show_when' => 'status == "opened"',
                ],
                [
                    'key' => 'unhatched',
                    'label' => 'Unhatched eggs',
                    'kind' => 'whole_number',
                    'limits' => ['lowest' => 0, 'highest' => 250],
                    'show_when' => 'status == "opened"',
                ],
                [
                    'key' => 'left_inside',
                    'label' => 'Hatchlings left inside',
                    'kind' => 'whole_number',
                    'limits' => ['lowest' => 0, 'highest' => 250],
                    'show_when' => 'status == "opened"',
                    'hint' => 'Alive or dead',
                ],
                [
                    'key' => 'hatched_share',
                    'label' => 'Hatching success',
                    'kind' => 'calculated',
                    'unit' => '%',
                    'decimals' => 1,
                    'formula' => 'round(100 * shells / (shells + unhatched), 1)',
                    'show_when' => 'status == "opened"',
                ],
                [
                    'key' => 'emerged_share',
                    'label' => 'Emergence success',
                    'kind' => 'calculated',
                    'unit' => '%',
                    'decimals' => 1,
                    'formula' => 'round(100 * (shells - left_inside) / (shells + unhatched), 1)',
                    'show_when' => 'status == "opened"',
                ],
                ['key' => 'sector', 'label' => 'Beach sector', 'kind' => 'short_text', 'most' => 30],
                ['key' => 'note', 'label' => 'Note', 'kind' => 'long_text', 'most' => 500],
            ],
            'photos' => ['allowed' => true, 'least' => 0, 'most' => 4],
            'slots' => [
                [
                    'key' => 'tag',
                    'label' => 'Tag close-up',
                    'kind' => 'photo',
                    'hint' => 'If the turtle was still there',
                ],
            ],
            'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'all', 'delete' => 'own']],
            'fix' => ['warn_above' => 15],
            'info' => [
                'description' => 'One record for each nest; the stake carries its code.',
                'tags' => ['turtles', 'nesting', 'season'],
                'credits' => 'Nest Patrol, Halcyon Cays',
                'source' => 'Dawn walks by six crews',
            ],
        ]);
    }
}
