<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\FormerMember;
use App\Models\Layer;
use App\Models\Member;
use App\Models\Role;
use App\Models\User;
use PinYard\Audience\Rows;
use PinYard\Design\CrewRights;
use PinYard\Design\LayerDesign;
use PinYard\Sync\Allowed;

/** What one person may do with one layer, from the person's role, crew and groups and the layer's design. */
final readonly class LayerRights
{
    private function __construct(
        private ?Member $member,
        private ?Layer $layer,
        private CrewRights $crew,
        private int $user,
    ) {
    }

    /** @param  bool  $binned  also where the programme lies in the bin: what phones still bring must land */
    public static function of(User $user, Layer $layer, bool $binned = false): self
    {
        $member = $layer->programme->trashed() && ! $binned ? null : $layer->programme->memberFor($user);

        return new self($member, $layer, self::rightsOf($member, $layer->design()), $user->id);
    }

    public static function ofMember(Member $member, Layer $layer): self
    {
        return new self($member, $layer, self::rightsOf($member, $layer->design()), $member->user_id);
    }

    /** What a design lets somebody do who does not coordinate: as crew, and by each group that may do so. */
    private static function rightsOf(Member|FormerMember|null $who, LayerDesign $design): CrewRights
    {
        $rights = $who?->role === Role::Crew ? [$design->rightsOf($who->crew?->name)] : [];
        if ($who instanceof Member && $who->role !== Role::Coordinator) {
            foreach ($who->inGroups() as $group) {
                if ($group->may_change) {
                    $rights[] = $design->rightsOf($group->name);
                }
            }
        }

        return array_reduce(
            $rights,
            static fn (?CrewRights $all, CrewRights $one): CrewRights => $all?->with($one) ?? $one,
        ) ?? CrewRights::none();
    }

    /**
     * What somebody may do, or might until leaving, by one version of a layer's design, as deciding a batch asks it.
     */
    public static function allowed(Member|FormerMember|null $who, Layer $layer, LayerDesign $design): Allowed
    {
        if ($who === null) {
            return new Allowed;
        }
        if ($who->role === Role::Coordinator) {
            return Allowed::everything();
        }
        $rights = self::rightsOf($who, $design);

        return new Allowed($rights->add, self::admitsOthers($who, $layer), $rights->change, $rights->delete);
    }

    private static function admitsOthers(Member|FormerMember|null $who, Layer $layer): bool
    {
        return $who instanceof Member
            ? PersonSight::of($who, $layer)->rows === Rows::All
            // What somebody saw who is gone was said by the design for their crew.
            : $who?->role === Role::Coordinator || self::rightsOf($who, $layer->design())->seeAll;
    }

    /** Whether others' records were there to be visited. */
    public static function sawOthers(Member|FormerMember|null $who, Layer $layer): bool
    {
        return $who?->role === Role::Coordinator || self::admitsOthers($who, $layer);
    }

    /** Whether it is there for them at all. */
    public function maySee(): bool
    {
        return $this->member !== null && ($this->goesOut()
            || ($this->layer !== null && PersonSight::of($this->member, $this->layer)->rows !== Rows::None));
    }

    private function coordinates(): bool
    {
        return $this->member?->role === Role::Coordinator;
    }

    public function mayAdd(): bool
    {
        return $this->coordinates() || $this->crew->add;
    }

    /** Whether records are brought, changed or deleted by them at all. */
    public function goesOut(): bool
    {
        return $this->coordinates() || $this->member?->role === Role::Crew || $this->crew->add ||
            $this->crew->change !== 'none' || $this->crew->delete !== 'none';
    }

    /** Others' records, not only the person's own. */
    public function seesAll(): bool
    {
        return $this->layer !== null && self::sawOthers($this->member, $this->layer);
    }

    public function changesAll(): bool
    {
        return $this->coordinates() || $this->crew->change === 'all';
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
        return $this->coordinates() || $whose === 'all' || ($whose === 'own' && $author === $this->user);
    }

    /** @return array{add: bool, change: 'all'|'own'|'none', delete: 'all'|'own'|'none', see: 'all'|'own'} */
    public function toArray(): array
    {
        return $this->coordinates()
            ? ['add' => true, 'change' => 'all', 'delete' => 'all', 'see' => 'all']
            : array_replace($this->crew->toArray(), ['see' => $this->seesAll() ? 'all' : 'own']);
    }

    public function mayDesign(): bool
    {
        return $this->coordinates();
    }
}
