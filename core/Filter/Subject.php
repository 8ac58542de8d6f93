<?php

declare(strict_types=1);

namespace PinYard\Filter;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;

/**
 * What a condition is about: a field of the record or of its latest visit, or something that every record has. Keys of
 * the latter that no field can have begin with `@`.
 */
final readonly class Subject
{
    public const COLLECTED = 'collected_at';

    /** Where it is. */
    public const PLACE = '@place';

    /** By number, the crews whose people made it. */
    public const CREW = '@crew';

    /** Whether it was made by whoever looks. */
    public const OWN = '@own';

    /** Whether a coordinator has accepted it as it is. */
    public const ACCEPTED = '@accepted';

    /** How many visits there have been. */
    public const VISITS = '@visits';

    private const DAYS = [Test::Since, Test::Until, Test::Between, Test::LastDays, Test::Today, Test::ThisWeek];

    private const NUMBER = [Test::Is, Test::IsNot, Test::AtLeast, Test::AtMost, Test::Between];

    /** @param  list<Test>  $tests  those that fit, the commonest first */
    private function __construct(public string $key, public ?Field $field, public bool $ofVisit, public array $tests)
    {
    }

    /** @return self|null null where there is no such thing */
    public static function of(string $key, bool $ofVisit, LayerDesign $design, ?LayerDesign $visits): ?self
    {
        $of = $ofVisit ? $visits : $design;
        $field = $of?->field($key);
        if ($field !== null && $field->hasValue()) {
            $tests = [...self::fitting($field->valueKind()), Test::There, Test::Missing];

            return new self($key, $field, $ofVisit, $tests);
        }

        return match (true) {
            $of === null => null,
            $key === self::COLLECTED => new self($key, null, $ofVisit, self::DAYS),
            $ofVisit => null,
            $key === self::PLACE => new self($key, null, false, [Test::InArea, Test::Within, Test::InShape]),
            $key === self::CREW => new self($key, null, false, [Test::OneOf, Test::NoneOf]),
            $key === self::OWN => new self($key, null, false, [Test::Is]),
            $key === self::ACCEPTED => self::accepted(),
            $key === self::VISITS => $visits === null ? null : new self($key, null, false, self::NUMBER),
            default => null,
        };
    }

    /**
     * All that conditions on a layer can be about, in the order in which one looks for it.
     *
     * @return list<self>
     */
    public static function all(LayerDesign $design, ?LayerDesign $visits): array
    {
        $keys = array_map(static fn (Field $f): array => [$f->key, false], $design->valueFields());
        foreach ([self::COLLECTED, self::PLACE, self::CREW, self::OWN, self::ACCEPTED, self::VISITS] as $key) {
            $keys[] = [$key, false];
        }
        foreach ($visits?->valueFields() ?? [] as $field) {
            $keys[] = [$field->key, true];
        }
        if ($visits !== null) {
            $keys[] = [self::COLLECTED, true];
        }
        $all = [];
        foreach ($keys as [$key, $ofVisit]) {
            $one = self::of($key, $ofVisit, $design, $visits);
            if ($one !== null && ! in_array($one, $all, false)) {
                $all[] = $one;
            }
        }

        return $all;
    }

    public static function accepted(): self
    {
        return new self(self::ACCEPTED, null, false, [Test::Is]);
    }

    /** @return list<Test> */
    private static function fitting(FieldKind $kind): array
    {
        return match ($kind) {
            FieldKind::ShortText, FieldKind::LongText => [Test::Is, Test::Contains, Test::IsNot, Test::OneOf],
            FieldKind::WholeNumber, FieldKind::Decimal => self::NUMBER,
            FieldKind::YesNo => [Test::Is],
            FieldKind::OneChoice => [Test::Is, Test::OneOf, Test::IsNot, Test::NoneOf],
            FieldKind::SeveralChoices => [Test::Has, Test::OneOf, Test::HasNot],
            FieldKind::Date => [Test::Is, ...self::DAYS],
            FieldKind::Time => [Test::Is, Test::AtLeast, Test::AtMost, Test::Between],
            FieldKind::DateTime => self::DAYS,
            FieldKind::Calculated, FieldKind::Heading => [],
        };
    }
}
