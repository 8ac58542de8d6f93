<?php

declare(strict_types=1);

namespace App\People;

use App\Audit\Audit;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Texts;
use Illuminate\Support\Str;
use PinYard\People\PastedPeople;
use PinYard\People\TypedCode;
use PinYard\Problem;
use PinYard\Refused;

/** Asks people into a programme: by a mail with a link of their own, and by one to hand over. */
final readonly class Inviting
{
    public const DAYS = 14;

    /** Whom one invitation can lead in. */
    public const MOST = 500;

    /** @param  list<int>  $groups  numbers of groups of the programme */
    public function __construct(
        private User $by,
        private Programme $programme,
        private Role $role,
        private bool $makes,
        private ?string $crew,
        private array $groups,
    ) {
    }

    /**
     * @param  array{role: string, makes?: bool, crew?: string|null, groups?: list<int>}  $in
     *
     * @throws Refused
     */
    public static function of(User $by, Programme $programme, array $in): self
    {
        $groups = array_values(array_unique($in['groups'] ?? []));
        if ($programme->groups()->whereKey($groups)->count() !== count($groups)) {
            throw Refused::because('group_unknown', 'groups');
        }
        $crew = trim($in['crew'] ?? '');
        if ($crew !== '' && $programme->groups()->where('name', $crew)->exists()) {
            throw Refused::because('group_name_taken', 'crew', $crew);
        }

        return new self(
            $by,
            $programme,
            Role::from($in['role']),
            $in['makes'] ?? false,
            $crew === '' ? null : $crew,
            $groups,
        );
    }

    /** @return string address to hand over */
    public function person(string $name, string $email): string
    {
        $crew = $this->crew === null ? null : $this->programme->crews()->firstOrCreate(['name' => $this->crew]);
        // This link is shown to hand over; the one in the mail is another, which only who reads that can have.
        $token = Str::random(32);
        $invitation = $this->programme->invitations()->create([
            'token_hash' => hash('sha256', $token),
            'crew_id' => $crew?->id,
            'name' => $name,
            'email' => mb_strtolower($email),
            'role' => $this->role,
            'makes' => $this->makes,
            'groups' => $this->groups,
            'expires_at' => now()->addDays(self::DAYS),
        ]);
        Audit::note($this->programme->id, 'invited', [
            'name' => $name, 'email' => mb_strtolower($email), 'role' => $this->role->value,
        ]);
        SendInvitation::dispatch($invitation->id, $this->by->name, Texts::spoken());

        return "/join/$token";
    }

    /**
     * One for many, who say themselves who they are. Whoever passes it on invites, so it leads to no more than crew.
     *
     * @return array{address: string, code: string} to hand over, and to type
     *
     * @throws Refused
     */
    public function many(int $most): array
    {
        if ($this->makes || ! in_array($this->role, [Role::Crew, Role::Guest], true)) {
            throw Refused::because('many_role', 'role');
        }
        $crew = $this->crew === null ? null : $this->programme->crews()->firstOrCreate(['name' => $this->crew]);
        [$token, $code] = [Str::random(32), TypedCode::make()];
        $this->programme->invitations()->create([
            'token_hash' => hash('sha256', $token),
            'code_hash' => hash('sha256', (string) TypedCode::read($code)),
            'crew_id' => $crew?->id,
            'name' => '',
            'email' => '',
            'most' => $most,
            'role' => $this->role,
            'makes' => false,
            'groups' => $this->groups,
            'expires_at' => now()->addDays(self::DAYS),
        ]);
        Audit::note($this->programme->id, 'invited_many', ['most' => $most, 'role' => $this->role->value]);

        return ['address' => "/join/$token", 'code' => $code];
    }

    /**
     * Everybody in a pasted list. Whoever is in the programme already is put into the groups, and not asked again.
     *
     * @return list<array{line: int, text: string, name: string, email: string,
     *     outcome: 'invited'|'added'|'there'|'refused', address: string|null, problem: Problem|null}>
     *
     * @throws Refused
     */
    public function several(string $text): array
    {
        $people = PastedPeople::read($text);
        if ($people === [] || count($people) > PastedPeople::MOST) {
            throw Refused::because($people === [] ? 'people_none' : 'people_many', 'text', null, [
                'most' => PastedPeople::MOST, 'count' => count($people),
            ]);
        }
        $here = $this->programme->members()->with('user')->get()->keyBy(static fn ($m): string => $m->user->email);

        return array_map(function (array $person) use ($here): array {
            $member = $here[$person['email']] ?? null;
            if ($person['problem'] !== null) {
                return $person + ['outcome' => 'refused', 'address' => null];
            }
            if ($member === null) {
                return $person + [
                    'outcome' => 'invited',
                    'address' => $this->person($person['name'], $person['email']),
                ];
            }
            foreach ($this->programme->groups()->whereKey($this->groups)->get() as $group) {
                Groups::join($group, $member->id);
            }

            return $person + ['outcome' => $this->groups === [] ? 'there' : 'added', 'address' => null];
        }, $people);
    }
}
