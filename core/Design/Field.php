<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * One field of a layer.
 *
 * `lowest` and `highest` belong to whole numbers, `most` (characters) to short texts,
 * `choices` to one choice; elsewhere they are null or empty.
 */
final readonly class Field
{
    /** Characters of a short text where the design names no fewer. */
    public const SHORT_TEXT_MOST = 255;

    /** What both PHP and JavaScript hold exactly (RFC 8259, section 6: interoperable integers). */
    public const WHOLE_MOST = 9_007_199_254_740_991;

    /** @param  list<Choice>  $choices */
    public function __construct(
        public string $key,
        public string $label,
        public FieldKind $kind,
        public string $hint = '',
        public bool $required = false,
        public ?int $lowest = null,
        public ?int $highest = null,
        public ?int $most = null,
        public array $choices = [],
    ) {
    }

    public function choice(string $code): ?Choice
    {
        foreach ($this->choices as $choice) {
            if ($choice->code === $code) {
                return $choice;
            }
        }

        return null;
    }

    /** Name of the column in the layer's table; the prefix keeps every key clear of SQL's reserved words. */
    public function column(): string
    {
        return 'f_'.$this->key;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $out = ['key' => $this->key, 'label' => $this->label, 'kind' => $this->kind->value];
        if ($this->hint !== '') {
            $out['hint'] = $this->hint;
        }
        if ($this->required) {
            $out['required'] = true;
        }
        if ($this->lowest !== null || $this->highest !== null) {
            $out['limits'] = array_filter(
                ['lowest' => $this->lowest, 'highest' => $this->highest, 'outside' => 'stop'],
                static fn (mixed $v): bool => $v !== null,
            );
        }
        if ($this->most !== null) {
            $out['most'] = $this->most;
        }
        if ($this->kind === FieldKind::OneChoice) {
            $out['choices'] = array_map(static fn (Choice $c): array => $c->toArray(), $this->choices);
        }

        return $out;
    }
}
