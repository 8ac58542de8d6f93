<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Layer;
use App\Models\Role;
use App\Models\User;
use PinYard\Design\CrewRights;
use PinYard\Design\LayerDesign;
use PinYard\Sync\Allowed;

/** What one person may do with one layer, from the person's role and the layer's design. */
final readonly class LayerRights
{
    private function __construct(private ?Role $role, private CrewRights $crew, private int $user)
    {
    }

    /** @param  bool  $binned  also where the programme lies in the bin: what phones still bring must land */
    public static function of(User $user, Layer $layer, bool $binned = false): self
    {
        $member = $layer->programme->trashed() && ! $binned ? null : $layer->programme->memberFor($user);

        return new self($member?->role, $layer->design()->rightsOf($member?->crew?->name), $user->id);
    }

    /** What a role and crew may do by one version of a layer's design, as deciding a batch asks it. */
    public static function allowed(?Role $role, ?string $crew, LayerDesign $design): Allowed
    {
        $rights = $design->rightsOf($crew);

        return match ($role) {
            Role::Coordinator => Allowed::everything(),
            Role::Crew => new Allowed($rights->add, $rights->seeAll, $rights->change, $rights->delete),
            null => new Allowed,
        };
    }

    public function maySee(): bool
    {
        return $this->role !== null;
    }

    public function mayAdd(): bool
    {
        return $this->role === Role::Coordinator || ($this->role === Role::Crew && $this->crew->add);
    }

    /** Everyone's records, not only the person's own. */
    public function seesAll(): bool
    {
        return $this->role === Role::Coordinator || ($this->role === Role::Crew && $this->crew->seeAll);
    }

    /** @param  int|null  $author  who made the record */
    public function mayChange(?int $author): bool
    {
        return $this->may($this->crew->change, $author);
    }

    public function mayDelete(?int $author): bool
    {
        return $this->may($this->crew->delete, $author);
    }

    /** @param  'all'|'own'|'none'  $whose */
    private function may(string $whose, ?int $author): bool
    {
        return $this->role === Role::Coordinator ||
            ($this->role === Role::Crew && ($whose === 'all' || ($whose === 'own' && $author === $this->user)));
    }

    /** @return array{add: bool, change: 'all'|'own'|'none', delete: 'all'|'own'|'none', see: 'all'|'own'} */
    public function toArray(): array
    {
        return $this->role === Role::Coordinator
            ? ['add' => true, 'change' => 'all', 'delete' => 'all', 'see' => 'all']
            : $this->crew->toArray();
    }

    public function mayDesign(): bool
    {
        return $this->role === Role::Coordinator;
    }
}
