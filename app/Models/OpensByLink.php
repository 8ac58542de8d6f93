<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Support\Str;

/**
 * A map or board that can be opened by a link. Closed for a while, it keeps its address, for that stands on signs; an
 * address that has got into wrong hands is withdrawn for good, and there is a new one.
 */
trait OpensByLink
{
    public static function byLink(string $token): self
    {
        return self::query()
            ->where('link_token', $token)
            ->where('audience', Audience::Link)
            ->whereHas('programme')
            ->firstOrFail();
    }

    /**
     * @param  bool  $anew  whether the address that there was is withdrawn for good
     * @param  list<string>  $some  names of the audiences, where it is shown to some
     */
    public function openTo(Audience $audience, bool $anew = false, array $some = []): void
    {
        $this->audience = $audience;
        $this->shown_to = $audience === Audience::Some ? $some : null;
        if ($anew) {
            $this->link_token = null;
        }
        if ($audience === Audience::Link) {
            $this->link_token ??= Str::random(22);
        }
        $this->save();
    }
}
