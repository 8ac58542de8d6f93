<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * Reads a choice list: codes and labels, none doubled.
 *
 * @internal
 */
final readonly class ChoiceReader
{
    public const MOST_CHOICES = 5_000;

    public const CODE = '/^[A-Za-z0-9_.-]{1,40}$/D';

    public function __construct(private DocumentReader $in)
    {
    }

    /**
     * @param  array<mixed>  $f
     * @return list<Choice>
     */
    public function choices(array $f, string $at): array
    {
        $choices = [];
        foreach ($this->in->list($f, 'choices', self::MOST_CHOICES, $at) as $i => $one) {
            $here = "$at/choices/$i";
            if (! is_array($one)) {
                $this->in->off('must_be_object', $here, $one);

                continue;
            }
            $this->in->noOthers($one, ['code', 'label', 'retired', 'colour', 'mark'], $here);
            $colour = $one['colour'] ?? null;
            if ($colour !== null && (! is_string($colour) || preg_match('/^#[0-9A-Fa-f]{6}$/D', $colour) !== 1)) {
                $this->in->off('colour_shape', "$here/colour", is_scalar($colour) ? $colour : null);
                $colour = null;
            }
            $mark = $one['mark'] ?? null;
            if ($mark !== null && (! is_string($mark) || ! MarkName::is($mark))) {
                $this->in->off('mark_unknown', "$here/mark", is_scalar($mark) ? $mark : null, [
                    'known' => implode(', ', MarkName::OURS),
                ]);
                $mark = null;
            }
            $code = $one['code'] ?? null;
            if (! is_string($code) || preg_match(self::CODE, $code) !== 1) {
                $this->in->off('code_shape', "$here/code", $code);
                $code = '';
            }
            $choices[] = new Choice(
                $code,
                $this->in->text($one, 'label', $here, 1, 120),
                $this->in->flag($one, 'retired', $here, false),
                $colour,
                $mark,
            );
        }
        if (array_filter($choices, static fn (Choice $c): bool => ! $c->retired) === []) {
            $this->in->off('choices_empty', "$at/choices");
        }
        $this->in->noDoubles(
            $choices,
            static fn (Choice $c): string => mb_strtolower($c->code),
            'code_doubled',
            "$at/choices",
            '/code',
        );
        $this->in->noDoubles(
            $choices,
            static fn (Choice $c): string => mb_strtolower($c->label),
            'choice_label_doubled',
            "$at/choices",
            '/label',
        );

        return $choices;
    }
}
