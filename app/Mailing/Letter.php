<?php

declare(strict_types=1);

namespace App\Mailing;

use App\Texts;
use Illuminate\Mail\Message;
use Illuminate\Support\Facades\Mail;

/** A mail in plain text, its words out of the catalogue: `<key>.subject` and `<key>.text`. */
final class Letter
{
    /** @param  array<string, string|int>  $words */
    public static function send(string $to, string $key, array $words): void
    {
        // No line end of a name may begin a header of its own.
        $subject = (string) preg_replace('/\s+/u', ' ', Texts::of("$key.subject", $words));
        Mail::raw(Texts::of("$key.text", $words), static fn (Message $mail) => $mail->to($to)->subject($subject));
    }
}
