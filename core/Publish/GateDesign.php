<?php

declare(strict_types=1);

namespace PinYard\Publish;

use PinYard\Problem;
use PinYard\Refused;

/** The front door of a programme: what stands on it, its colour, and which maps and boards hang in its gallery. */
final readonly class GateDesign
{
    public const LONGEST_TITLE = 80;

    public const LONGEST_ABOUT = 2000;

    public const COLOUR = '#0F5C53';

    /** @param  list<array{kind: 'map'|'board', id: int}>  $hung in the order of the gallery */
    private function __construct(
        public string $title,
        public string $about,
        public Colour $colour,
        public array $hung,
    ) {
    }

    /**
     * Reads `{title, about, colour: '#RRGGBB', hung: [{kind, id}]}`; something hung twice hangs once.
     *
     * @param  list<int>  $maps  ids of the programme's maps
     * @param  list<int>  $boards  ids of its boards
     *
     * @throws Refused with every problem
     */
    public static function read(mixed $in, array $maps, array $boards): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', 'gate');
        }
        $problems = [];
        $title = is_string($in['title'] ?? null) ? trim($in['title']) : '';
        if ($title === '' || mb_strlen($title) > self::LONGEST_TITLE) {
            $problems[] = new Problem('gate_title', 'title', $title, ['most' => self::LONGEST_TITLE]);
        }
        $about = $in['about'] ?? '';
        if (! is_string($about) || mb_strlen($about) > self::LONGEST_ABOUT) {
            $problems[] = new Problem('gate_about', 'about', null, ['most' => self::LONGEST_ABOUT]);
            $about = '';
        }
        $colour = null;
        try {
            $colour = Colour::read($in['colour'] ?? self::COLOUR, 'colour');
        } catch (Refused $refused) {
            $problems = [...$problems, ...$refused->problems];
        }
        $hung = [];
        foreach (is_array($in['hung'] ?? null) ? array_values($in['hung']) : [] as $i => $thing) {
            $kind = is_array($thing) ? $thing['kind'] ?? null : null;
            $id = is_array($thing) ? $thing['id'] ?? null : null;
            if (
                ($kind !== 'map' && $kind !== 'board') ||
                ! is_int($id) ||
                ! in_array($id, $kind === 'map' ? $maps : $boards, true)
            ) {
                $problems[] = new Problem('gate_thing', "hung/$i", null, ['n' => $i + 1]);

                continue;
            }
            $hung["$kind $id"] = ['kind' => $kind, 'id' => $id];
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }
        assert($colour !== null);

        return new self($title, $about, $colour, array_values($hung));
    }

    /** @return array{title: string, about: string, colour: string, hung: list<array{kind: 'map'|'board', id: int}>} */
    public function toArray(): array
    {
        return [
            'title' => $this->title,
            'about' => $this->about,
            'colour' => $this->colour->hex,
            'hung' => $this->hung,
        ];
    }
}
