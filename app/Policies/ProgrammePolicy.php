<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/**
 * A programme in the bin is none. To someone outside, a programme does not exist; to whoever belongs to it without
 * coordinating it exists but is not theirs to manage.
 */
final class ProgrammePolicy
{
    public function view(User $user, ?Programme $programme): Response
    {
        return $programme?->memberFor($user) === null ? Response::denyAsNotFound() : Response::allow();
    }

    public function manage(User $user, ?Programme $programme): Response
    {
        return match ($programme?->memberFor($user)?->role) {
            null => Response::denyAsNotFound(),
            Role::Coordinator => Response::allow(),
            default => Response::deny(),
        };
    }

    /** Make maps and boards. */
    public function make(User $user, ?Programme $programme): Response
    {
        return match ($programme?->memberFor($user)?->mayMake()) {
            null => Response::denyAsNotFound(),
            true => Response::allow(),
            false => Response::deny(),
        };
    }

    /** Bring what was recorded on the way. */
    public function goOut(User $user, ?Programme $programme): Response
    {
        $member = $programme?->memberFor($user);
        $goes = $member !== null && ($member->coordinates() || $member->role === Role::Crew
            || $member->inGroups()->contains('may_change', true));

        return match (true) {
            $member === null => Response::denyAsNotFound(),
            $goes => Response::allow(),
            default => Response::deny(),
        };
    }
}
