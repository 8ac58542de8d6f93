<?php

declare(strict_types=1);

namespace App\Models;

/**
 * Nobody in particular of an audience, for a coordinator who looks at what those people get. It belongs to one
 * programme, made nothing, and is never stored.
 */
final class Onlooker extends User
{
    private int $programme = 0;

    private ?Member $member = null;

    /**
     * @param  string  $audience  its name, the only one that it belongs to
     * @param  list<Group>  $groups
     */
    public static function of(
        Programme $programme,
        string $audience,
        Role $role,
        ?Crew $crew,
        array $groups,
    ): self {
        $onlooker = new self;
        $onlooker->forceFill(['id' => 0, 'name' => '', 'email' => '']);
        $onlooker->programme = $programme->id;
        $member = new Member;
        $member->forceFill([
            'id' => 0,
            'programme_id' => $programme->id,
            'user_id' => 0,
            'crew_id' => $crew?->id,
            'role' => $role,
            'makes' => false,
            'waiting' => 0,
        ]);
        $member->setRelation('crew', $crew);
        $member->setRelation('groups', $member->newCollection($groups));
        $member->setRelation('user', $onlooker);
        $member->onlyAs = $audience;
        $onlooker->member = $member;

        return $onlooker;
    }

    /** Names whom it stands for, for what is kept of what it was told. */
    public function standsFor(): string
    {
        return "$this->programme:{$this->member?->onlyAs}";
    }

    public function programmeNumber(): int
    {
        return $this->programme;
    }

    public function memberOf(Programme $programme): ?Member
    {
        return $programme->id === $this->programme ? $this->member : null;
    }

    /** @param  array<mixed>  $options */
    public function save(array $options = []): bool
    {
        throw new \LogicException('Nobody in particular is not stored.');
    }
}
