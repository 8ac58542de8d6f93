<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Layer;
use App\Models\Role;
use App\Models\User;

/** What one person may do with one layer, from the person's role and the layer's design. */
final readonly class LayerRights
{
    private function __construct(private ?Role $role, private bool $crewAdds, private bool $crewSeesAll)
    {
    }

    public static function of(User $user, Layer $layer): self
    {
        $crew = $layer->design()->crew;

        return new self($layer->programme->memberFor($user)?->role, $crew->add, $crew->seeAll);
    }

    public function maySee(): bool
    {
        return $this->role !== null;
    }

    public function mayAdd(): bool
    {
        return $this->role === Role::Coordinator || $this->role === Role::Crew && $this->crewAdds;
    }

    /** Everyone's records, not only the person's own. */
    public function seesAll(): bool
    {
        return $this->role === Role::Coordinator || $this->role === Role::Crew && $this->crewSeesAll;
    }

    public function mayDesign(): bool
    {
        return $this->role === Role::Coordinator;
    }
}
