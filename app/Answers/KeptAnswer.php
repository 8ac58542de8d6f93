<?php

declare(strict_types=1);

namespace App\Answers;

use App\Texts;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;

/**
 * An answer that is made once for one way of seeing one state of things. The state names everything that could change
 * it and never leaves the server; the tag that leaves is made of what the answer says, so it tells nobody that
 * something happened which they may not see.
 */
final readonly class KeptAnswer
{
    private const BODIES = 'answers';

    private const TAGS = 'tags';

    private const TOLD = 'told';

    /** @param  \Closure(): string  $body */
    private function __construct(public string $tag, private \Closure $body)
    {
    }

    /**
     * @param  string  $state  with the key of the way of seeing
     * @param  \Closure(): array<string, mixed>  $make
     * @param  list<string>  $beside  keys that say nothing new by themselves, as the moment of asking
     */
    public static function of(string $state, \Closure $make, array $beside = []): self
    {
        $state .= self::shape();
        // The tag is a file of its own: most who ask know the answer, which may be large.
        $tag = KeptFiles::get(self::TAGS, $state);
        if ($tag !== null) {
            return new self($tag, static fn (): string => KeptFiles::get(self::BODIES, $state) ?? self::json($make()));
        }
        $answer = $make();
        $body = self::json($answer);
        $tag = self::tagOf(self::json(array_diff_key($answer, array_flip($beside))));
        KeptFiles::put(self::BODIES, $state, $body);
        KeptFiles::put(self::TAGS, $state, $tag);

        return new self($tag, static fn (): string => $body);
    }

    /**
     * An answer that is made anew each time, tagged by what it says: who has it gets but that nothing has changed.
     *
     * @param  array<array-key, mixed>  $answer
     */
    public static function told(array $answer): self
    {
        $body = self::json($answer);

        return new self(self::tagOf($body), static fn (): string => $body);
    }

    /**
     * For what is asked again and again: whoever has the answer to just this hears so before anything is made to
     * answer with.
     *
     * @param  string  $asked  names all that could change the answer for this one viewer, as cheaply as it can be told;
     *     it may name more than that
     * @param  \Closure(): self  $answer
     */
    public static function unlessKnown(Request $request, string $asked, \Closure $answer): JsonResponse|Response
    {
        $known = self::known($asked, $request->headers->get('If-None-Match'));
        if ($known !== null) {
            return new Response('', 304, self::headers($known));
        }
        $made = $answer();
        if ($made->tag !== self::tagTold($asked)) {
            KeptFiles::put(self::TOLD, $asked.self::shape(), $made->tag);
        }

        return $made->response($request);
    }

    /**
     * The tag of what was answered to just this, where it is one of those that somebody has.
     *
     * @param  string|null  $has  what they name (If-None-Match)
     */
    public static function known(string $asked, ?string $has): ?string
    {
        $tag = $has === null ? null : self::tagTold($asked);

        return $tag !== null && self::isAmong($tag, (string) $has) ? $tag : null;
    }

    private static function tagTold(string $asked): ?string
    {
        return KeptFiles::get(self::TOLD, $asked.self::shape());
    }

    /** The answer before it is packed. */
    public function text(): string
    {
        return ($this->body)();
    }

    /** Bytes of it. */
    public function length(): int
    {
        return strlen($this->text());
    }

    /**
     * Under an address that names this very answer, so that whoever has it never asks again; its browser keeps it for
     * whoever could ask for just this.
     */
    public function named(Request $request, string $type): JsonResponse|Response
    {
        $response = $this->response($request);
        $response->headers->set('Content-Type', $type);
        if ($request->query('v') === $this->tag) {
            $response->headers->set('Cache-Control', 'private, max-age=604800, immutable');
        }

        return $response;
    }

    /** A release may answer in another shape, and sentences are in one language. */
    private static function shape(): string
    {
        return '|'.config('app.version').config('app.answers').Texts::spoken();
    }

    /** With the application's own key, so that nobody can guess an answer and compare. */
    private static function tagOf(string $told): string
    {
        return substr(hash_hmac('sha256', $told, (string) config('app.key')), 0, 32);
    }

    public function response(Request $request): JsonResponse|Response
    {
        $headers = self::headers($this->tag);

        return self::isAmong($this->tag, (string) $request->header('If-None-Match'))
            ? new Response('', 304, $headers)
            : JsonResponse::fromJsonString(($this->body)(), 200, $headers);
    }

    /** @return array<string, string> */
    public static function headers(string $tag): array
    {
        return ['ETag' => "\"$tag\"", 'Cache-Control' => 'no-cache, private'];
    }

    /** @param  array<array-key, mixed>  $answer */
    private static function json(array $answer): string
    {
        return json_encode($answer, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES);
    }

    /**
     * Weakly (RFC 9110, 13.1.2): a server that packs the answer on its way out makes the tag weak, and it is the same
     * answer.
     */
    private static function isAmong(string $tag, string $named): bool
    {
        foreach (explode(',', $named) as $one) {
            $one = trim($one);
            if ($one === '*' || preg_replace('/^W\//', '', $one) === "\"$tag\"") {
                return true;
            }
        }

        return false;
    }
}
