<?php

declare(strict_types=1);

namespace PinYard\Filter;

use PinYard\Design\LayerDesign;
use PinYard\Refused;

/**
 * The filter tree: all, any or none of its parts, which are conditions or filters again. Slices, boards, search and
 * exports use this one form; App\Layers\FilterSql turns it into bound SQL.
 */
final readonly class Filter
{
    private const DEEPEST = 5;

    private const MOST_PARTS = 50;

    private const MOST_CONDITIONS = 100;

    /** @param  list<Condition|self>  $parts */
    private function __construct(public Joined $joined, public array $parts)
    {
    }

    public static function everything(): self
    {
        return new self(Joined::All, []);
    }

    /** Those that a coordinator has accepted as they are, of all or of those that another filter lets through. */
    public static function accepted(?self $of): self
    {
        $accepted = new Condition(Subject::accepted(), Test::Is, true);

        return new self(Joined::All, $of === null ? [$accepted] : [$accepted, $of]);
    }

    /** Whether it lets nothing through that no coordinator has accepted. */
    public function asksForAccepted(): bool
    {
        if ($this->joined !== Joined::All) {
            return false;
        }
        foreach ($this->parts as $part) {
            if ($part instanceof self ? $part->asksForAccepted() : $part->isAcceptance()) {
                return true;
            }
        }

        return false;
    }

    /**
     * Reads `{all: [...]}`, `{any: [...]}` or `{none: [...]}`.
     *
     * @param  LayerDesign|null  $visits  the design of the visits to the layer's records, if there are any
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design, ?LayerDesign $visits = null): self
    {
        $filter = self::group($in, new ConditionReader($design, $visits), 'filter', 0);
        if ($filter->size() > self::MOST_CONDITIONS) {
            throw Refused::because('filter_too_big', 'filter', $filter->size(), ['most' => self::MOST_CONDITIONS]);
        }

        return $filter;
    }

    /** @throws Refused */
    private static function group(mixed $in, ConditionReader $conditions, string $at, int $depth): self
    {
        $word = is_array($in) && count($in) === 1 ? Joined::tryFrom((string) array_key_first($in)) : null;
        $list = is_array($in) && $word !== null ? $in[$word->value] : null;
        if ($word === null || ! is_array($list) || ! array_is_list($list)) {
            throw Refused::because('filter_shape', $at);
        }
        if ($depth > self::DEEPEST || count($list) > self::MOST_PARTS) {
            throw Refused::because('filter_too_big', $at, count($list), ['most' => self::MOST_PARTS]);
        }
        $parts = [];
        foreach ($list as $i => $part) {
            $here = "$at/$word->value/$i";
            $parts[] =
                is_array($part) && ! array_key_exists('field', $part)
                    ? self::group($part, $conditions, $here, $depth + 1)
                    : $conditions->read($part, $here);
        }

        return new self($word, $parts);
    }

    private function size(): int
    {
        return array_sum(array_map(static fn (Condition|self $p): int => $p instanceof self ? $p->size() : 1, $this
            ->parts));
    }

    /** @return list<Condition> all of them, wherever they stand */
    public function conditions(): array
    {
        $all = [];
        foreach ($this->parts as $part) {
            array_push($all, ...$part instanceof self ? $part->conditions() : [$part]);
        }

        return $all;
    }

    /** @return array<'all'|'any'|'none', list<mixed>> */
    public function toArray(): array
    {
        return [
            $this->joined->value => array_map(static fn (Condition|self $p): array => $p->toArray(), $this->parts),
        ];
    }
}
