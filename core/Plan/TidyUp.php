<?php

declare(strict_types=1);

namespace PinYard\Plan;

use PinYard\Problem;
use PinYard\Refused;

/**
 * One thing to do to several things at once: put on a shelf, tag, give a purpose, star, copy, hand over, throw away,
 * bring back.
 */
final readonly class TidyUp
{
    /** Purposes that every programme has; it may add its own. */
    public const PURPOSES = ['trial', 'training', 'live'];

    public const DAYS_IN_BIN = 30;

    private const MOST_THINGS = 500;

    private const ACTIONS = [
        'shelf',
        'tag',
        'untag',
        'purpose',
        'unpurpose',
        'star',
        'unstar',
        'copy',
        'hand_over',
        'bin',
        'restore',
    ];

    /**
     * @param  'shelf'|'tag'|'untag'|'purpose'|'unpurpose'|'star'|'unstar'|'copy'|'hand_over'|'bin'|'restore'  $action
     * @param  list<array{kind: 'programme'|'layer'|'map'|'board', id: int}>  $things
     * @param  string|int|null  $with  the shelf's number or null, the tag, the purpose, the new owner's number
     */
    private function __construct(public string $action, public array $things, public string|int|null $with)
    {
    }

    /** @throws Refused */
    public static function read(mixed $in): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object');
        }
        $action = $in['action'] ?? null;
        if (! is_string($action) || ! in_array($action, self::ACTIONS, true)) {
            throw Refused::because('tidy_action', 'action', is_scalar($action) ? $action : null, [
                'known' => implode(', ', self::ACTIONS),
            ]);
        }
        $list = $in['things'] ?? null;
        if (! is_array($list) || ! array_is_list($list) || $list === []) {
            throw Refused::because('tidy_nothing', 'things');
        }
        if (count($list) > self::MOST_THINGS) {
            throw Refused::because('too_many', 'things', count($list), [
                'count' => count($list),
                'most' => self::MOST_THINGS,
            ]);
        }
        $things = [];
        $problems = [];
        foreach ($list as $i => $one) {
            [$kind, $id] = is_array($one) ? [$one['kind'] ?? null, $one['id'] ?? null] : [null, null];
            if (($kind === 'programme' || $kind === 'layer' || $kind === 'map' || $kind === 'board') && is_int($id)) {
                $things[] = ['kind' => $kind, 'id' => $id];
            } else {
                $problems[] = new Problem('tidy_thing', "things/$i");
            }
        }
        $with = $in['with'] ?? null;
        $number = $action === 'shelf' || $action === 'hand_over';
        if (($number && $with !== null && ! is_int($with)) || ($action === 'hand_over' && $with === null)) {
            $problems[] = new Problem($action === 'shelf' ? 'shelf_unknown' : 'owner_unknown', 'with');
        }
        if (in_array($action, ['tag', 'untag', 'purpose', 'unpurpose'], true)) {
            $with = is_string($with) ? trim($with) : '';
            if ($with === '' || mb_strlen($with) > 40) {
                $problems[] = new Problem('tag_shape', 'with', $with);
            }
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }

        return new self($action, $things, is_string($with) || is_int($with) ? $with : null);
    }

    /**
     * A list of words with this tidy-up's word in it, or without it.
     *
     * @param  list<string>  $words
     * @return list<string>
     */
    public function words(array $words): array
    {
        $others = array_values(
            array_filter(
                $words,
                fn (string $word): bool => mb_strtolower($word) !== mb_strtolower((string) $this->with),
            ),
        );

        return $this->action === 'tag' || $this->action === 'purpose' ? [...$others, (string) $this->with] : $others;
    }
}
