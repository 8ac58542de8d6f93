<?php

declare(strict_types=1);

namespace App\Policies;

use App\Models\Import;
use App\Models\User;
use Illuminate\Auth\Access\Response;

/** Data is brought in by whoever manages the programme that it goes to. */
final class ImportPolicy
{
    public function manage(User $user, Import $import): Response
    {
        return (new ProgrammePolicy)->manage($user, $import->programme);
    }
}
