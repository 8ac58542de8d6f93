<?php

declare(strict_types=1);

namespace App\People;

use App\Mailing\Letter;
use App\Models\Invitation;
use App\Models\User;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Str;

/**
 * Mails an invitation with a link that nobody else is shown. In the queue, so that two hundred of them, or a slow mail
 * server, keep nobody waiting; the link is made here, so that the queue holds none.
 */
final class SendInvitation implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    /**
     * @param  string  $by  name of whoever invites
     * @param  string|null  $language  of theirs: nobody knows yet what the other one reads
     */
    public function __construct(
        private readonly int $invitation,
        private readonly string $by,
        private readonly ?string $language,
    ) {
    }

    public function handle(): void
    {
        $invitation = Invitation::query()->with('programme')->find($this->invitation);
        // Taken back meanwhile, or taken up by the link that was handed over.
        if ($invitation === null || ! $invitation->isOpen()) {
            return;
        }
        $token = Str::random(32);
        $invitation->forceFill(['mail_token_hash' => hash('sha256', $token)])->save();
        $known = User::query()->where('email', $invitation->email)->value('language');
        Letter::send($invitation->email, $known ?? $this->language ?? null, 'mail.invite', [
            'name' => $invitation->name,
            'programme' => $invitation->programme->name,
            'by' => $this->by,
            'address' => config('app.url')."/join/$token",
        ]);
    }
}
