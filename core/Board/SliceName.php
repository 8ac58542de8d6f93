<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\LayerDesign;

/** Proposes a name for a slice from its rule, so that no slice is ever nameless. */
final class SliceName
{
    /**
     * Phrases for the text catalogue (`slice.<code>`), in order.
     *
     * @return list<array{code: string, params: array<string, string|int>}>
     */
    public static function phrases(Filter $filter, LayerDesign $design): array
    {
        if ($filter->parts === []) {
            return [['code' => 'everything', 'params' => []]];
        }
        $phrases = [];
        foreach ($filter->parts as $part) {
            if ($part instanceof Filter) {
                array_push($phrases, ...self::phrases($part, $design));
            } else {
                $phrases[] = self::phrase($part, $design);
            }
        }

        return $phrases;
    }

    /** @return array{code: string, params: array<string, string|int>} */
    private static function phrase(Condition $condition, LayerDesign $design): array
    {
        $field = $design->field($condition->field);
        $values = array_map(
            static fn (string|int|float|bool $v): string => is_string($v)
                ? $field?->choice($v)->label ?? $v
                : (is_bool($v)
                    ? ($v
                        ? 'yes'
                        : 'no')
                    : (string) $v),
            is_array($condition->value) ? $condition->value : [$condition->value],
        );

        return [
            'code' => ($field === null ? 'collected_' : '').$condition->test,
            'params' => ['field' => $field->label ?? '', 'value' => implode(', ', $values)],
        ];
    }
}
