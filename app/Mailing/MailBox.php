<?php

declare(strict_types=1);

namespace App\Mailing;

use Illuminate\Support\Facades\DB;
use Symfony\Component\Mailer\SentMessage;
use Symfony\Component\Mailer\Transport\AbstractTransport;
use Symfony\Component\Mime\Address;
use Symfony\Component\Mime\Email;

/** The stand-in for a mail server: what would have been sent is kept, to be read at the desk of the demo. */
final class MailBox extends AbstractTransport
{
    private const KEPT = 500;

    protected function doSend(SentMessage $message): void
    {
        $mail = $message->getOriginalMessage();
        if (! $mail instanceof Email) {
            return;
        }
        DB::table('mail_box')->insert([
            'to' => mb_substr(
                implode(', ', array_map(static fn (Address $a): string => $a->getAddress(), $mail->getTo())),
                0,
                190,
            ),
            'subject' => mb_substr((string) $mail->getSubject(), 0, 190),
            'text' => (string) $mail->getTextBody(),
            'sent_at' => now(),
        ]);
        DB::table('mail_box')
            ->where('id', '<=', (int) DB::table('mail_box')->max('id') - self::KEPT)
            ->delete();
    }

    public function __toString(): string
    {
        return 'mailbox://';
    }
}
