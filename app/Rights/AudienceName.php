<?php

declare(strict_types=1);

namespace App\Rights;

use App\Models\Crew;
use App\Models\Group;
use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;

/** Those for whom a rule of who sees what is said: everyone with a link, all of one role, one crew, one group. */
final readonly class AudienceName
{
    public const LINK = 'link';

    public const CREWS = 'crews';

    public const MAKERS = 'makers';

    public const GUESTS = 'guests';

    private function __construct(public string $name)
    {
    }

    public static function link(): self
    {
        return new self(self::LINK);
    }

    public static function crews(): self
    {
        return new self(self::CREWS);
    }

    public static function makers(): self
    {
        return new self(self::MAKERS);
    }

    public static function guests(): self
    {
        return new self(self::GUESTS);
    }

    public static function crew(int $crew): self
    {
        return new self("crew-$crew");
    }

    public static function group(int $group): self
    {
        return new self("group-$group");
    }

    /**
     * Those that somebody belongs to who does not coordinate.
     *
     * @return list<self>
     */
    public static function of(Member $member): array
    {
        if ($member->onlyAs !== null) {
            return [new self($member->onlyAs)];
        }
        $of = match ($member->role) {
            Role::Coordinator => [],
            Role::Maker => [self::makers()],
            Role::Crew => [self::crews()],
            Role::Guest => [self::guests()],
        };
        if ($member->makes && $member->role !== Role::Maker) {
            $of[] = self::makers();
        }
        if ($member->crew_id !== null) {
            $of[] = self::crew($member->crew_id);
        }
        foreach ($member->inGroups() as $group) {
            $of[] = self::group($group->id);
        }

        return $of;
    }

    /** By its name, where the programme has such. */
    public static function named(string $name, Programme $programme): ?self
    {
        $known = match (true) {
            in_array($name, [self::LINK, self::CREWS, self::MAKERS, self::GUESTS], true) => true,
            preg_match('/^crew-([1-9]\d{0,17})$/D', $name, $crew) === 1 => Crew::query()
                ->where('programme_id', $programme->id)->whereKey($crew[1])->exists(),
            preg_match('/^group-([1-9]\d{0,17})$/D', $name, $group) === 1 => Group::query()
                ->where('programme_id', $programme->id)->whereKey($group[1])->exists(),
            default => false,
        };

        return $known ? new self($name) : null;
    }

    /** @return 'link'|'crews'|'makers'|'guests'|'crew'|'group' */
    public function kind(): string
    {
        return match (true) {
            str_starts_with($this->name, 'crew-') => 'crew',
            str_starts_with($this->name, 'group-') => 'group',
            $this->name === self::CREWS => 'crews',
            $this->name === self::MAKERS => 'makers',
            $this->name === self::GUESTS => 'guests',
            default => 'link',
        };
    }

    /** What its crew or group is called. */
    public function title(): ?string
    {
        $number = explode('-', $this->name, 2)[1] ?? '';

        return match ($this->kind()) {
            'crew' => Crew::query()->find($number)?->name,
            'group' => Group::query()->find($number)?->name,
            default => null,
        };
    }

    /** Whether those who are meant may bring records, so that some are their own. */
    public function goesOut(): bool
    {
        return $this->name !== self::LINK && $this->name !== self::GUESTS && $this->name !== self::MAKERS;
    }

    /** Whether it is one of a programme's own, so that its rules mean nothing in another. */
    public static function isOfProgramme(string $name): bool
    {
        return str_starts_with($name, 'crew-') || str_starts_with($name, 'group-');
    }
}
