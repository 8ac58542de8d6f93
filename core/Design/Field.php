<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * One field of a layer. What does not belong to its kind is null or empty.
 */
final readonly class Field
{
    /** Characters of a short and of a long text where the design names no fewer. */
    public const SHORT_TEXT_MOST = 255;

    public const LONG_TEXT_MOST = 10_000;

    /** What both PHP and JavaScript hold exactly (RFC 8259, section 6: interoperable integers). */
    public const WHOLE_MOST = 9_007_199_254_740_991;

    /** Decimals beyond this are no measurements. */
    public const DECIMAL_MOST = 1e15;

    /**
     * @param  int|float|string|null  $lowest  a number, a date, a time or a moment; `today` and `now` move with the
     *     clock
     * @param  bool  $asks  a value outside the limits is asked about, not refused
     * @param  int|null  $most  characters
     * @param  string|null  $shape  of a short text: `#` a digit, `@` a letter, `*` either, all else itself
     * @param  int|null  $decimals  shown of a number
     * @param  int|null  $list  number of the shared choice list that the choices came from
     * @param  list<Choice>  $choices
     * @param  string|int|float|bool|list<string>|null  $default
     * @param  string|null  $showWhen  formula that gives yes or no
     * @param  int  $generation  counts the columns that the field has had; a change of kind begins another
     * @param  FieldKind|null  $result  of a calculated field: the kind that keeps what its formula gives
     */
    public function __construct(
        public string $key,
        public string $label,
        public FieldKind $kind,
        public string $hint = '',
        public bool $required = false,
        public int|float|string|null $lowest = null,
        public int|float|string|null $highest = null,
        public ?int $most = null,
        public array $choices = [],
        public bool $asks = false,
        public ?string $shape = null,
        public ?string $unit = null,
        public bool $readOnly = false,
        public string|int|float|bool|array|null $default = null,
        public ?int $decimals = null,
        public ?int $list = null,
        public ?string $showWhen = null,
        public ?string $requireWhen = null,
        public ?string $formula = null,
        public ?FieldKind $result = null,
        public int $generation = 1,
    ) {
    }

    /** @param  string|int|float|bool|list<string>|null  $default */
    public function withDefault(string|int|float|bool|array|null $default): self
    {
        return $this->copy($default, $this->result, $this->generation);
    }

    public function withResult(FieldKind $result): self
    {
        return $this->copy($this->default, $result, $this->generation);
    }

    public function withGeneration(int $generation): self
    {
        return $this->copy($this->default, $this->result, $generation);
    }

    /** @param  string|int|float|bool|list<string>|null  $default */
    private function copy(string|int|float|bool|array|null $default, ?FieldKind $result, int $generation): self
    {
        return new self(
            $this->key,
            $this->label,
            $this->kind,
            $this->hint,
            $this->required,
            $this->lowest,
            $this->highest,
            $this->most,
            $this->choices,
            $this->asks,
            $this->shape,
            $this->unit,
            $this->readOnly,
            $default,
            $this->decimals,
            $this->list,
            $this->showWhen,
            $this->requireWhen,
            $this->formula,
            $result,
            $generation,
        );
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

    /** @return array<array-key, string> */
    public function labels(): array
    {
        return array_column(array_map(static fn (Choice $c): array => [$c->code, $c->label], $this->choices), 1, 0);
    }

    public function hasValue(): bool
    {
        return $this->kind !== FieldKind::Heading;
    }

    /** The kind of its values: its own, or what its formula gives. */
    public function valueKind(): FieldKind
    {
        return $this->kind === FieldKind::Calculated ? $this->result ?? FieldKind::LongText : $this->kind;
    }

    public function longest(): int
    {
        return $this->most ?? ($this->kind === FieldKind::ShortText ? self::SHORT_TEXT_MOST : self::LONG_TEXT_MOST);
    }

    /** Name of the column in the layer's table; the prefix keeps every key clear of SQL's reserved words. */
    public function column(): string
    {
        return self::columnName($this->key, $this->generation);
    }

    public static function columnName(string $key, int $generation): string
    {
        return "f_$key".($generation > 1 ? "__$generation" : '');
    }

    /** A regular expression for its shape that PHP and JavaScript read alike. */
    public function pattern(): ?string
    {
        return $this->shape === null
            ? null
            : '^'.
                    implode(
                        '',
                        array_map(
                            static fn (string $c): string => match ($c) {
                                '#' => '[0-9]',
                                '@' => '[A-Za-z]',
                                '*' => '[A-Za-z0-9]',
                                default => strpbrk($c, '^$\\.|?+()[]{}/-') === false
                                    ? $c
                                    : ($c === '-'
                                        ? '-'
                                        : "\\$c"),
                            },
                            mb_str_split($this->shape),
                        ),
                    ).
                    '$';
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $limits = array_filter(
            ['lowest' => $this->lowest, 'highest' => $this->highest],
            static fn (mixed $v): bool => $v !== null,
        );

        return array_filter(
            [
                'key' => $this->key,
                'label' => $this->label,
                'kind' => $this->kind->value,
                'hint' => $this->hint === '' ? null : $this->hint,
                'required' => $this->required ?: null,
                'read_only' => $this->readOnly ?: null,
                'limits' => $limits === [] ? null : $limits + ['outside' => $this->asks ? 'ask' : 'stop'],
                'most' => $this->most,
                'shape' => $this->shape,
                'unit' => $this->unit,
                'decimals' => $this->decimals,
                'list' => $this->list,
                'choices' => $this->kind->isChoice()
                    ? array_map(static fn (Choice $c): array => $c->toArray(), $this->choices)
                    : null,
                'default' => $this->default,
                'show_when' => $this->showWhen,
                'require_when' => $this->requireWhen,
                'formula' => $this->formula,
                'generation' => $this->generation > 1 ? $this->generation : null,
            ],
            static fn (mixed $v): bool => $v !== null,
        );
    }
}
