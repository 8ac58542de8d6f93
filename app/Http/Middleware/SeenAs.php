<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\Crew;
use App\Models\Group;
use App\Models\Onlooker;
use App\Models\Programme;
use App\Models\Role;
use App\People\SignedIn;
use App\Rights\AudienceName;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Auth;
use PinYard\Refused;
use Symfony\Component\HttpFoundation\Response;

/**
 * A coordinator who looks at what an audience gets is answered as nobody in particular of it: by the same policies and
 * the same reader, so that what is seen is what they would see. Nothing is changed that way.
 */
final class SeenAs
{
    /** `7:group-3`: number of a programme, and the audience */
    public const HEADER = 'Pin-Yard-Seen-As';

    /** What is asked by sending something, and changes nothing. */
    private const ASKS = ['api/v1/layers/*/classes', 'api/v1/layers/*/slices/try'];

    /** What is of whoever is signed in, whatever they look at. */
    private const OWN = ['api/v1/me', 'api/v1/me/*', 'api/v1/session', 'api/v1/notices', 'api/v1/notices/*'];

    /**
     * @param  \Closure(Request): Response  $next
     *
     * @throws Refused
     */
    public function handle(Request $request, \Closure $next): Response
    {
        $named = $request->header(self::HEADER);
        if ($named === null || $request->is(self::OWN)) {
            return $next($request);
        }
        $person = SignedIn::of($request);
        [$number, $audience] = [...explode(':', $named, 2), ''];
        $programme = preg_match('/^[1-9]\d{0,17}$/D', $number) === 1 ? Programme::query()->find($number) : null;
        $of = $programme === null ? null : AudienceName::named($audience, $programme);
        if ($programme === null || $of === null || $programme->memberFor($person)?->coordinates() !== true) {
            throw Refused::because('seen_as_unknown', 'as', $named);
        }
        if (! $request->isMethodSafe() && ! $request->is(self::ASKS)) {
            throw Refused::because('seen_as_read_only', 'as');
        }
        Auth::setUser(self::onlooker($programme, $of));
        try {
            return $next($request);
        } finally {
            // The session is its person's own, and is kept so.
            Auth::setUser($person);
        }
    }

    private static function onlooker(Programme $programme, AudienceName $of): Onlooker
    {
        [$kind, $number] = [...explode('-', $of->name, 2), ''];
        $crew = $kind === 'crew' ? Crew::query()->find($number) : null;
        $group = $kind === 'group' ? Group::query()->find($number) : null;

        return Onlooker::of($programme, $of->name, match ($kind) {
            AudienceName::CREWS, 'crew' => Role::Crew,
            AudienceName::MAKERS => Role::Maker,
            default => Role::Guest,
        }, $crew, $group === null ? [] : [$group]);
    }
}
