<?php

declare(strict_types=1);

namespace PinYard\Formula;

use PinYard\Refused;
use Symfony\Component\ExpressionLanguage\Lexer;
use Symfony\Component\ExpressionLanguage\SyntaxError;
use Symfony\Component\ExpressionLanguage\Token;

/**
 * Reads a formula into nodes that know their place in the text.
 *
 * The syntax is the part of symfony/expression-language that has to do with values (its own lexer reads the text);
 * its parser forgets where a node stood, and a person needs to see the place, so precedence climbing is done here,
 * by the library's own table of precedences.
 *
 * @internal use {@see Formula::read()}
 */
final class Parser
{
    public const LONGEST = 5_000;

    private const DEEPEST = 60;

    /** Operator to precedence and the function it stands for. */
    private const BINARY = [
        'or' => [10, 'or'],
        '||' => [10, 'or'],
        'and' => [15, 'and'],
        '&&' => [15, 'and'],
        '==' => [20, 'eq'],
        '!=' => [20, 'ne'],
        '<' => [20, 'lt'],
        '<=' => [20, 'le'],
        '>' => [20, 'gt'],
        '>=' => [20, 'ge'],
        'in' => [20, 'in'],
        'not in' => [20, 'not_in'],
        'contains' => [20, 'contains'],
        'starts with' => [20, 'starts'],
        'ends with' => [20, 'ends'],
        '+' => [30, 'add'],
        '-' => [30, 'sub'],
        '~' => [40, 'cat'],
        '*' => [60, 'mul'],
        '/' => [60, 'div'],
        '%' => [60, 'mod'],
        '**' => [200, 'pow'],
    ];

    private const UNARY = ['not' => [50, 'not'], '!' => [50, 'not'], '-' => [500, 'neg'], '+' => [500, 'same']];

    /** @var list<Token> */
    private array $tokens;

    private int $i = 0;

    private int $depth = 0;

    private function __construct(private readonly string $text)
    {
        try {
            $stream = (new Lexer)->tokenize($text);
        } catch (SyntaxError $e) {
            $at =
                preg_match('/around position (\d+)/', $e->getMessage(), $m) === 1
                    ? min((int) $m[1], max(0, strlen($text) - 1))
                    : 0;
            throw Place::refuse(
                $text,
                str_contains($e->getMessage(), 'Unclosed') ? 'formula_open' : 'formula_character',
                $at,
                1,
            );
        }
        $tokens = [];
        do {
            $tokens[] = $stream->current;
            $end = $stream->isEOF();
            if (! $end) {
                $stream->next();
            }
        } while (! $end);
        $this->tokens = $tokens;
    }

    /** @throws Refused */
    public static function parse(string $text): Node
    {
        if (trim($text) === '') {
            throw Refused::because('formula_empty');
        }
        if (mb_strlen($text) > self::LONGEST) {
            throw Refused::because('formula_too_long', null, mb_substr($text, 0, 40).'…', [
                'length' => mb_strlen($text),
                'most' => self::LONGEST,
            ]);
        }
        if (! mb_check_encoding($text, 'UTF-8')) {
            throw Refused::because('formula_character', null, null, ['at' => 0, 'length' => 1, 'part' => '']);
        }
        // The lexer trims nothing but does fold line breaks away, one to one, so places stay true.
        $parser = new self($text);
        $node = $parser->expression(0);
        if ($parser->token()->type !== Token::EOF_TYPE) {
            throw $parser->unexpected();
        }

        return $node;
    }

    private function expression(int $least): Node
    {
        if (++$this->depth > self::DEEPEST) {
            throw Place::refuse($this->text, 'formula_deep', $this->at(), 1);
        }
        $left = $this->unary();
        while (
            $this->token()->type === Token::OPERATOR_TYPE &&
            isset(self::BINARY[($op = (string) $this->token()->value)]) &&
            self::BINARY[$op][0] >= $least
        ) {
            [$precedence, $name] = self::BINARY[$op];
            $this->i++;
            // Only the power binds to the right.
            $right = $this->expression($op === '**' ? $precedence : $precedence + 1);
            $left = $this->call($name, [$left, $right], $left->at, $right->at + $right->length, true);
        }
        if ($least === 0 && $this->isPunctuation('?')) {
            $this->i++;
            $yes = $this->expression(0);
            $this->expect(':');
            $no = $this->expression(0);
            $left = $this->call('choose', [$left, $yes, $no], $left->at, $no->at + $no->length);
        }
        $this->depth--;

        return $left;
    }

    private function unary(): Node
    {
        $token = $this->token();
        $at = $this->at();
        if ($token->type === Token::OPERATOR_TYPE && isset(self::UNARY[($op = (string) $token->value)])) {
            [$precedence, $name] = self::UNARY[$op];
            $this->i++;
            $part = $this->expression($precedence);

            return $this->call($name, [$part], $at, $part->at + $part->length, true);
        }
        if ($this->isPunctuation('(')) {
            $this->i++;
            $inner = $this->expression(0);
            $this->expect(')');

            return $inner;
        }
        if ($this->isPunctuation('[')) {
            return $this->sequence('list', null, ']', $at);
        }
        if ($token->type === Token::NUMBER_TYPE) {
            return $this->leaf('number', (float) $token->value);
        }
        if ($token->type === Token::STRING_TYPE) {
            return $this->leaf('text', (string) $token->value);
        }
        if ($token->type !== Token::NAME_TYPE) {
            throw $this->unexpected();
        }
        $word = (string) $token->value;
        $lower = strtolower($word);
        if (in_array($lower, ['true', 'false', 'null'], true)) {
            return $this->leaf('word', ['true' => true, 'false' => false, 'null' => null][$lower]);
        }
        if (isset($this->tokens[$this->i + 1]) && $this->isPunctuation('(', 1)) {
            $this->i++;

            return $this->sequence('call', $word, ')', $at);
        }

        return $this->leaf('name', $word);
    }

    /** @param  'list'|'call'  $kind */
    private function sequence(string $kind, ?string $name, string $close, int $at): Node
    {
        $this->i++;
        $parts = [];
        while (! $this->isPunctuation($close)) {
            if ($parts !== []) {
                $this->expect(',');
            }
            $parts[] = $this->expression(0);
        }
        $end = $this->at() + 1;
        $this->i++;

        return new Node($kind, $name, $parts, $at, $end - $at);
    }

    /** @param  list<Node>  $parts */
    private function call(string $name, array $parts, int $at, int $end, bool $operator = false): Node
    {
        return new Node('call', $name, $parts, $at, $end - $at, $operator);
    }

    /** @param  'number'|'text'|'word'|'name'  $kind */
    private function leaf(string $kind, string|float|bool|null $value): Node
    {
        $at = $this->at();
        $length = $this->length();
        $this->i++;

        return new Node($kind, $value, [], $at, $length);
    }

    private function token(): Token
    {
        return $this->tokens[$this->i];
    }

    /** First byte of the current token, from 0; the end of the text is its last byte. */
    private function at(): int
    {
        return $this->token()->type === Token::EOF_TYPE
            ? strlen($this->text)
            : max(0, (int) $this->token()->cursor - 1);
    }

    private function length(): int
    {
        $next = $this->tokens[$this->i + 1] ?? null;
        $end = $next === null || $next->type === Token::EOF_TYPE ? strlen($this->text) : (int) $next->cursor - 1;

        return strlen(rtrim(substr($this->text, $this->at(), $end - $this->at())));
    }

    private function isPunctuation(string $mark, int $ahead = 0): bool
    {
        $token = $this->tokens[$this->i + $ahead] ?? null;

        return $token !== null && $token->type === Token::PUNCTUATION_TYPE && $token->value === $mark;
    }

    private function expect(string $mark): void
    {
        if (! $this->isPunctuation($mark)) {
            throw $this->token()->type === Token::EOF_TYPE
                ? Place::refuse($this->text, 'formula_unfinished', max(0, strlen($this->text) - 1), 1, [
                    'wanted' => $mark,
                ])
                : $this->unexpected();
        }
        $this->i++;
    }

    private function unexpected(): Refused
    {
        return $this->token()->type === Token::EOF_TYPE
            ? Place::refuse($this->text, 'formula_unfinished', max(0, strlen($this->text) - 1), 1, ['wanted' => 'none'])
            : Place::refuse($this->text, 'formula_unexpected', $this->at(), max(1, $this->length()));
    }
}
