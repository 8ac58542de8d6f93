<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Support\Str;

/** A map or board that can be opened by a link. The link keeps working when the audience is narrowed and widened again. */
trait OpensByLink
{
    public static function byLink(string $token): self
    {
        return self::query()->where('link_token', $token)->where('audience', Audience::Link)->whereHas('programme')->firstOrFail();
    }

    public function openTo(Audience $audience): void
    {
        $this->audience = $audience;
        if ($audience === Audience::Link) {
            $this->link_token ??= Str::random(22);
        }
        $this->save();
    }
}
