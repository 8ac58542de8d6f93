<?php

declare(strict_types=1);

namespace PinYard\Filter;

/** Proposes a name for a slice from its rule, so that no slice is ever nameless. */
final readonly class SliceName
{
    private const LONGEST = 190;

    /**
     * @param  \Closure(string, array<string, string|int|float>): string  $text  a phrase of the catalogue
     *     (`slice.<code>`)
     * @param  \Closure(Condition): list<string>  $called  what crews and areas of a condition are called
     */
    public function __construct(private \Closure $text, private \Closure $called)
    {
    }

    /** @return string of at most 190 letters */
    public function of(Filter $filter): string
    {
        $name = $this->group($filter, true);

        return mb_strlen($name) > self::LONGEST ? mb_substr($name, 0, self::LONGEST - 1).'…' : $name;
    }

    private function group(Filter $filter, bool $outermost): string
    {
        if ($filter->parts === []) {
            // Of nothing, none is true as well.
            return ($this->text)($filter->joined === Joined::Any ? 'nothing' : 'everything', []);
        }
        $parts = array_map(
            fn (Condition|Filter $p): string => $p instanceof Filter ? $this->group($p, false) : $this->line($p),
            $filter->parts,
        );
        $one = count($parts) === 1;
        $joined = match ($filter->joined) {
            Joined::All => implode($outermost ? ', ' : ($this->text)('and', []), $parts),
            Joined::Any, Joined::None => implode(($this->text)('or', []), $parts),
        };
        $bracketed = $one || $outermost ? $joined : "($joined)";

        return $filter->joined === Joined::None
            ? ($this->text)('not', ['rule' => $one ? $joined : "($joined)"])
            : $bracketed;
    }

    private function line(Condition $c): string
    {
        $subject = $c->subject;
        $field = $subject->field;
        $phrase = ($this->text)($this->code($c), ['field' => $field->label ?? '', ...$this->said($c)]);

        return $subject->ofVisit ? ($this->text)('visit', ['rule' => $phrase]) : $phrase;
    }

    private function code(Condition $c): string
    {
        return match ($c->subject->field === null ? $c->subject->key : null) {
            Subject::COLLECTED => "collected_{$c->test->value}",
            Subject::VISITS => "visits_{$c->test->value}",
            Subject::CREW => "crew_{$c->test->value}",
            Subject::OWN => 'own',
            Subject::ACCEPTED => $c->value === true ? 'accepted' : 'to_check',
            default => $c->test->value,
        };
    }

    /** @return array<string, string|int|float> */
    private function said(Condition $c): array
    {
        $value = $c->value;
        if ($c->test === Test::Within && is_array($value)) {
            $number = static fn (string $of): float => is_numeric($value[$of] ?? null) ? (float) $value[$of] : 0.0;
            $metres = $number('metres');

            return [
                'value' => $metres >= 10_000 ? round($metres / 1_000, 1).' km' : round($metres, 1).' m',
                'lat' => round($number('lat'), 4),
                'lon' => round($number('lon'), 4),
            ];
        }
        if (in_array($c->subject->key, [Subject::PLACE, Subject::CREW], true)) {
            return ['value' => implode(', ', ($this->called)($c))];
        }
        $values = array_map(fn (mixed $v): string => $this->one($c, $v), $c->values());

        return $c->test === Test::Between
            ? ['value' => $values[0] ?? '', 'highest' => $values[1] ?? '']
            : ['value' => implode(', ', $values)];
    }

    private function one(Condition $c, string|int|float|bool $value): string
    {
        $field = $c->subject->field;
        $unit = $field?->unit === null || is_bool($value) || is_string($value) ? '' : " $field->unit";

        return match (true) {
            is_string($value) => $field?->choice($value)->label ?? $value,
            is_bool($value) => ($this->text)($value ? 'yes' : 'no', []),
            default => $value.$unit,
        };
    }
}
