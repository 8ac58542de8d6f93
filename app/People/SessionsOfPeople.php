<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use App\OneTrip;
use Illuminate\Session\DatabaseSessionHandler;

/**
 * Sessions in the database, of people who are signed in alone: a visitor leaves no row behind. A screen that asks every
 * few seconds writes nothing as long as nothing in its session is new; when it was last there is kept to the minute.
 */
final class SessionsOfPeople extends DatabaseSessionHandler
{
    private const SECONDS = 60;

    /** @var array{string, string, int}|null id, what was read, when it was last written */
    private ?array $seen = null;

    /** @var array<string, mixed>|null the person of the session that was read, as the database has them */
    private ?array $person = null;

    /** @param  string  $sessionId */
    public function read($sessionId): string
    {
        // With its person, for whom every request asks next.
        $found = OneTrip::of(
            fn (): ?object => $this->getQuery()
                ->leftJoin('users', 'users.id', '=', 'sessions.user_id')
                ->where('sessions.id', $sessionId)
                ->first(['users.*', 'payload', 'last_activity']),
        );
        $session = $found instanceof \stdClass ? $found : new \stdClass;
        $this->person = array_diff_key((array) $session, ['payload' => 1, 'last_activity' => 1]);
        if ($this->expired($session) || ! isset($session->payload)) {
            $this->exists = isset($session->payload);

            return '';
        }
        $this->exists = true;
        $data = (string) base64_decode($session->payload, true);
        $this->seen = [$sessionId, $data, (int) $session->last_activity];

        return $data;
    }

    /**
     * Whether a browser has nothing to be given: its session is the one that it named, and was written not long ago; or
     * nobody was and is signed in.
     */
    public function keeps(string $id, bool $signedIn): bool
    {
        [$named, , $at] = $this->seen ?? ['', '', 0];

        return $this->seen === null
            ? ! $signedIn
            : $signedIn && $named === $id && $at > $this->currentTime() - self::SECONDS;
    }

    /** Somebody, if it is they whose session was read with this request. */
    public function person(int $id): ?User
    {
        return $this->person !== null && (int) ($this->person['id'] ?? 0) === $id
            ? (new User)->newFromBuilder($this->person)
            : null;
    }

    /** @param  string  $sessionId  @param  string  $data */
    public function write($sessionId, $data): bool
    {
        if ($this->userId() === null) {
            return true;
        }
        [$id, $before, $at] = $this->seen ?? ['', '', 0];
        if ($id === $sessionId && $at > $this->currentTime() - self::SECONDS && self::same($before, $data)) {
            return true;
        }

        return parent::write($sessionId, $data);
    }

    /** Where somebody was last is of no use where screens ask for data. */
    private static function same(string $before, string $after): bool
    {
        if ($before === $after) {
            return true;
        }
        $read = static fn (string $data): array => array_diff_key(
            (array) @unserialize($data, ['allowed_classes' => false]),
            ['_previous' => 1],
        );

        return $read($before) === $read($after);
    }
}
