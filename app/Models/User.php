<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Foundation\Auth\User as Authenticatable;
use Illuminate\Support\Facades\DB;

/**
 * @property int $id
 * @property string $name
 * @property string $email
 * @property string $password
 * @property \Illuminate\Support\Carbon|null $email_verified_at since when it is proved that the person has this address
 * @property string|null $totp_secret in Base32
 * @property \Illuminate\Support\Carbon|null $totp_since since when codes of an app are asked for
 * @property int $totp_last step of the last code that was taken
 * @property list<string>|null $recovery_codes hashes of those that are left
 * @property list<string>|null $unwanted_mails of {@see MAILS}, those that they do not want
 * @property string|null $language of {@see \App\Language::KNOWN}; missing until they sign in for the first time
 * @property bool $second_demanded whether a programme that they coordinate demands a second factor
 */
class User extends Authenticatable
{
    /** Kinds of mails that one can do without; what is of one's account always comes. */
    public const MAILS = ['alerts', 'roles'];

    protected $table = 'users';

    protected $fillable = ['name', 'email', 'password'];

    protected $attributes = ['second_demanded' => false];

    protected $hidden = ['password', 'remember_token', 'totp_secret', 'recovery_codes'];

    protected $casts = [
        'password' => 'hashed',
        'email_verified_at' => 'datetime',
        'totp_secret' => 'encrypted',
        'totp_since' => 'datetime',
        'totp_last' => 'integer',
        'recovery_codes' => 'array',
        'second_demanded' => 'boolean',
        'unwanted_mails' => 'array',
    ];

    public function wantsMail(string $kind): bool
    {
        return ! in_array($kind, $this->unwanted_mails ?? [], true);
    }

    /**
     * Works out anew of whom a second factor is demanded: it is asked with every request, and so kept with the person.
     * After the commit, so that of two changes at once the later sees both; and by reading first, for a change that
     * looked things up by itself locked what it read, and two programmes made at once stood in each other's way.
     *
     * @param  list<int>  $people  numbers
     */
    public static function demandSecond(array $people): void
    {
        DB::afterCommit(static function () use ($people): void {
            $of = DB::table('members as m')->join('programmes as p', 'p.id', '=', 'm.programme_id')
                ->whereIn('m.user_id', $people)
                ->where('m.role', Role::Coordinator->value)
                ->where('p.second_factor', true)
                ->whereNull('p.deleted_at')
                ->distinct()->pluck('m.user_id')->all();
            foreach ([[true, $of], [false, array_values(array_diff($people, $of))]] as [$demanded, $whom]) {
                $others = DB::table('users')->whereIn('id', $whom)->where('second_demanded', ! $demanded)->pluck('id');
                if ($others->isNotEmpty()) {
                    DB::table('users')->whereIn('id', $others)->update(['second_demanded' => $demanded]);
                }
            }
        });
    }

    /** @return HasMany<Member, $this> */
    public function memberships(): HasMany
    {
        return $this->hasMany(Member::class);
    }
}
