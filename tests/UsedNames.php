<?php

declare(strict_types=1);

namespace Tests;

/**
 * What a file of PHP names: classes as they are called in full, and functions. Read off its tokens, in a second for the
 * whole application; parsing it all, with every library, took most of a minute.
 */
final class UsedNames
{
    /**
     * @return list<string> names of classes and namespaces in full (also of those that are imported and not used), and
     *     of the functions that are called, as they stand there; `exit` and `die` among them
     */
    public static function of(string $code): array
    {
        $tokens = array_values(array_filter(
            \PhpToken::tokenize($code),
            static fn (\PhpToken $token): bool => ! $token->isIgnorable(),
        ));
        $names = $imports = [];
        foreach ($tokens as $at => $token) {
            $before = $tokens[$at - 1] ?? null;
            if ($token->is(T_USE) && $before?->is([';', '{', '}', T_OPEN_TAG])) {
                $imports += self::imported(array_slice($tokens, $at + 1));
            } elseif ($token->is(T_NAME_FULLY_QUALIFIED)) {
                $names[] = substr($token->text, 1);
            } elseif ($token->is(T_NAME_QUALIFIED) && ! $before?->is([T_NAMESPACE, T_USE])) {
                [$first, $rest] = explode('\\', $token->text, 2);
                $names[] = ($imports[$first] ?? $first).'\\'.$rest;
            } elseif ($token->is(T_EXIT)) {
                $names[] = $token->text;
            } elseif ($token->is(T_STRING) && ($tokens[$at + 1] ?? null)?->is('(')
                && ! $before?->is([
                    T_OBJECT_OPERATOR,
                    T_NULLSAFE_OBJECT_OPERATOR,
                    T_DOUBLE_COLON,
                    T_FUNCTION,
                    T_NEW,
                    '&',
                ])) {
                $names[] = $token->text;
            }
        }

        return array_values(array_unique([...$names, ...array_values($imports)]));
    }

    /**
     * @param  list<\PhpToken>  $tokens  after the word `use`
     * @return array<string, string> names in full by what they are called in this file
     */
    private static function imported(array $tokens): array
    {
        $found = [];
        $group = $name = $alias = '';
        foreach ($tokens as $token) {
            if ($token->is([T_STRING, T_NAME_QUALIFIED, T_NAME_FULLY_QUALIFIED])) {
                [$name, $alias] = $alias === '' ? [ltrim($token->text, '\\'), ' '] : [$name, $token->text];
            } elseif ($token->is(T_NS_SEPARATOR)) {
                $name .= '\\';
            } elseif ($token->is('{')) {
                [$group, $name, $alias] = [$name, '', ''];
            } elseif ($token->is([',', ';', '}'])) {
                if ($name !== '') {
                    $full = $group.$name;
                    $called = trim($alias) === '' ? substr((string) strrchr('\\'.$full, '\\'), 1) : $alias;
                    $found[$called] = $full;
                }
                [$name, $alias] = ['', ''];
                if ($token->is(';')) {
                    return $found;
                }
            }
        }

        return $found;
    }
}
