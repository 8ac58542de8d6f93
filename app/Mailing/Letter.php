<?php

declare(strict_types=1);

namespace App\Mailing;

use App\Texts;
use Illuminate\Mail\Message;
use Illuminate\Support\Facades\Mail;

/** A mail in plain text, its words out of the catalogue: `<key>.subject` and `<key>.text`. */
final class Letter
{
    /**
     * @param  array<string, string|int>  $words
     * @param  string|null  $language  of whoever reads it
     */
    public static function send(string $to, ?string $language, string $key, array $words): void
    {
        [$subject, $text] = Texts::in($language, static fn (): array => [
            // No line end of a name may begin a header of its own.
            (string) preg_replace('/\s+/u', ' ', Texts::of("$key.subject", $words)),
            Texts::of("$key.text", $words),
        ]);
        Mail::raw($text, static fn (Message $mail) => $mail->to($to)->subject($subject));
    }
}
