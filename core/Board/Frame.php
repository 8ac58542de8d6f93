<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Refused;

/**
 * What every tile has, whatever it shows: its title, its place on a page of twelve columns, its place on a phone, the
 * question that it answers.
 */
final readonly class Frame
{
    public const COLUMNS = 12;

    public const MOST_ROWS = 24;

    private const LONGEST_TITLE = 120;

    private const LOWEST = 2_000;

    /**
     * @param  int  $width  columns of twelve; `$height` rows
     * @param  int|null  $x  column from the left; `$y` row from the top; null: wherever there is room
     * @param  int  $page  of the board's pages, from 0
     * @param  int|null  $phone  its rank on a phone; null: as it stands at the desk
     * @param  bool  $onPhone  whether phones show it
     * @param  string|null  $question  id of the programme's question that it answers
     */
    private function __construct(
        public string $id,
        public string $title,
        public int $width,
        public int $height,
        public ?int $x,
        public ?int $y,
        public int $page,
        public ?int $phone,
        public bool $onPhone,
        public ?string $question,
    ) {
    }

    /** @throws Refused */
    public static function read(TileInput $tile): self
    {
        $title = $tile->value('title');
        if (! is_string($title) || trim($title) === '' || mb_strlen($title) > self::LONGEST_TITLE) {
            throw $tile->refused('empty', 'title', $title);
        }
        $id = $tile->value('id');
        if (! is_string($id) || preg_match('/^[A-Za-z0-9_-]{1,40}$/D', $id) !== 1) {
            throw $tile->refused('id_shape', 'id', $id);
        }
        $question = $tile->value('question');
        $within = static fn (string $key, int $least, int $most): ?int => is_int($v = $tile->value($key))
            ? max($least, min($most, $v))
            : null;
        $width = $within('width', 1, self::COLUMNS) ?? 3;

        return new self(
            $id,
            $title,
            $width,
            $within('height', 1, self::MOST_ROWS) ?? 2,
            $within('x', 0, self::COLUMNS - $width),
            $within('y', 0, self::LOWEST),
            $within('page', 0, BoardPlan::MOST_PAGES - 1) ?? 0,
            $within('phone', 0, BoardPlan::MOST_TILES) ?? null,
            $tile->value('on_phone') !== false,
            is_string($question) && $question !== '' && mb_strlen($question) <= 40 ? $question : null,
        );
    }

    /** @return array<string, mixed> what is needed to draw it, and nothing of what it reads */
    public function place(): array
    {
        return array_filter(
            [
                'id' => $this->id,
                'title' => $this->title,
                'width' => $this->width,
                'height' => $this->height,
                'x' => $this->x,
                'y' => $this->y,
                'page' => $this->page ?: null,
                'phone' => $this->phone,
                'on_phone' => $this->onPhone ? null : false,
            ],
            static fn (mixed $v): bool => $v !== null,
        );
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return $this->place() + ($this->question === null ? [] : ['question' => $this->question]);
    }
}
