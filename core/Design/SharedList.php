<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Refused;

/** A choice list on its own, to be shared by fields of several layers. */
final readonly class SharedList
{
    /** @param  list<Choice>  $choices */
    private function __construct(public string $title, public array $choices)
    {
    }

    /** @throws Refused naming every place that is off */
    public static function read(mixed $in): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object');
        }
        $reading = new DocumentReader;
        $title = $reading->text($in, 'title', '', 1, 120);
        $choices = (new ChoiceReader($reading))->choices($in, '');
        if ($reading->problems !== []) {
            throw Refused::for($reading->problems);
        }

        return new self(trim($title), $choices);
    }

    /** @return list<array<string, mixed>> */
    public function toArray(): array
    {
        return array_map(static fn (Choice $c): array => $c->toArray(), $this->choices);
    }

    /**
     * A document with this list's choices wherever a field shares it.
     *
     * @param  array<string, mixed>  $document
     * @return array<string, mixed>
     */
    public function into(array $document, int $number): array
    {
        $fields = [];
        foreach (is_array($document['fields'] ?? null) ? $document['fields'] : [] as $field) {
            $fields[] =
                is_array($field) && ($field['list'] ?? null) === $number
                    ? ['choices' => $this->toArray()] + $field
                    : $field;
        }

        return ['fields' => $fields] + $document;
    }
}
