<?php

declare(strict_types=1);

namespace Demo;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\People\Groups;
use App\Publish\SeenBy;
use App\Rights\AudienceName;

/** Partners who see the nests of the demo blurred, and who makes its maps. */
final class DemoGroups
{
    public static function make(Programme $programme, Layer $nests): void
    {
        $partners = Groups::make($programme, ['name' => 'Partners', 'members_seen' => true]);
        $people = ['Tova Brandt' => Role::Guest, 'Eli Marsh' => Role::Guest, 'Priya Nandan' => Role::Maker];
        foreach ($people as $name => $role) {
            $user = User::query()->firstOrCreate(
                ['email' => strtolower(explode(' ', $name)[0]).'@example.test'],
                ['name' => $name, 'password' => NestPatrol::PASSWORD],
            );
            $member = $programme->members()->create(['user_id' => $user->id, 'role' => $role]);
            if ($role === Role::Guest) {
                Groups::join($partners, $member->id);
            }
        }
        SeenBy::save($nests, AudienceName::guests(), ['rows' => 'none'], null);
        SeenBy::save($nests, AudienceName::group($partners->id), [
            'rows' => 'all', 'place' => 'cell', 'metres' => 100, 'fields' => null, 'photos' => false,
        ], null);
    }
}
