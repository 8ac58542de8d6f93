<?php

declare(strict_types=1);

namespace App\Maps;

use App\Layers\StoredValue;
use App\Maps\Tallies\AreaTallies;
use App\Records\VisibleRecords;
use App\Texts;
use PinYard\Carto\CardText;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Formula\Type;
use stdClass;

/** The sentences of a card with the values of one record in them. */
final readonly class CardSentences
{
    /** @param  VisibleRecords  $records  showing what the sentences say and ask for */
    public function __construct(
        private CardText $text,
        private VisibleRecords $records,
        private ?AreaTallies $tallies,
    ) {
    }

    /**
     * @return list<list<array{text: string, is: 'words'|'value'|'date'|'moment'|'ago'|'missing'}>> of each sentence its
     *     pieces; dates and moments are said by the screens, in the reader's own way
     */
    public function of(stdClass $row): array
    {
        $design = $this->records->design();
        $stored = function (string $key) use ($design, $row): string|int|float|bool|array|null {
            $field = $this->records->shows($key) ? $design->field($key) : null;

            return $field === null
                ? null
                : StoredValue::fromColumn($field->valueKind(), $row->{$field->column()} ?? null);
        };

        return array_map(
            fn (array $parts): array => array_map(fn (array $p): array => $this->piece($p, $row), $parts),
            $this->text->fitting($stored),
        );
    }

    /**
     * @param  array<string, string|true>  $part
     * @return array{text: string, is: 'words'|'value'|'date'|'moment'|'ago'|'missing'}
     */
    private function piece(array $part, stdClass $row): array
    {
        if (isset($part['text'])) {
            return ['text' => (string) $part['text'], 'is' => 'words'];
        }
        if (isset($part['formula'])) {
            return $this->workedOut((string) $part['formula'], $row);
        }
        $field = isset($part['field']) && $this->records->shows((string) $part['field'])
            ? $this->records->design()->field((string) $part['field'])
            : null;
        $text = $field === null
            ? (isset($part['tally']) ? $this->tallies?->textOf((string) $row->id) : null)
            : StoredValue::shown($field, $row->{$field->column()} ?? null);
        if ($text === null || $text === '') {
            return ['text' => Texts::of('card.unknown'), 'is' => 'missing'];
        }

        return ['text' => $text, 'is' => $field === null ? 'value' : self::kind($field, isset($part['as']))];
    }

    /**
     * What a formula comes to for this record; one that cannot be worked out says that it is not known.
     *
     * @return array{text: string, is: 'value'|'date'|'moment'|'missing'}
     */
    private function workedOut(string $text, stdClass $row): array
    {
        $formula = $this->text->formulaOf($text);
        $said = $formula === null ? null : WorkedOut::text($formula, $row, $this->records);

        return $said === null
            ? ['text' => Texts::of('card.unknown'), 'is' => 'missing']
            : [
                'text' => $said,
                'is' => match ($formula?->type) {
                    Type::Date => 'date',
                    Type::Instant => 'moment',
                    default => 'value',
                },
            ];
    }

    /** @return 'value'|'date'|'moment'|'ago' */
    private static function kind(Field $field, bool $ago): string
    {
        return match (true) {
            ! CardText::isMoment($field) => 'value',
            $ago => 'ago',
            $field->valueKind() === FieldKind::Date => 'date',
            default => 'moment',
        };
    }
}
