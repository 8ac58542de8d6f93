<?php

declare(strict_types=1);

use App\Language;
use Demo\NestPatrol;
use GuzzleHttp\Client;
use GuzzleHttp\Cookie\CookieJar;
use Psr\Http\Message\ResponseInterface;
use Tests\Running\Phone;

/* What nginx and php-fpm really send, from the server that bin/test has started. */
beforeEach(function (): void {
    $http = new Client(['base_uri' => getenv('PINYARD_TEST_URL'), 'http_errors' => false, 'allow_redirects' => false]);
    $this->http = $http;
    $this->from = fn (string $path, array $headers = []): ResponseInterface => $http->get($path, [
        'headers' => $headers,
    ]);
});

it('says how it is', function (): void {
    $answer = ($this->from)('/health');
    expect($answer->getStatusCode())
        ->toBe(200)
        ->and(json_decode((string) $answer->getBody(), true))
        ->toMatchArray(['status' => 'ok', 'database' => true, 'storage' => true, 'queue' => true])
        ->toHaveKey('version');
});

// Source: OWASP ASVS 4.0.3, V14.4 (HTTP security headers).
it('sends every page with a policy, and lets only pages with a form compile code', function (
    string $path,
    bool $compiles,
): void {
    $page = ($this->from)($path);
    $policy = $page->getHeaderLine('Content-Security-Policy');
    expect($page->getStatusCode())
        ->toBe(200)
        ->and($page->getHeaderLine('Content-Type'))
        ->toStartWith('text/html')
        ->and($policy)
        ->toContain("default-src 'self'", "object-src 'none'", "base-uri 'self'", "frame-ancestors 'self'")
        ->and(str_contains($policy, 'unsafe-eval'))
        ->toBe($compiles)
        // The field app alone may speak to a receiver's bridge on its own phone.
        ->and(str_contains($policy, 'http://127.0.0.1:*'))
        ->toBe(str_starts_with($path, '/field'))
        ->and(preg_replace('#http://(127\.0\.0\.1|localhost):\*#', '', $policy))
        ->not->toContain('http:')
        ->and($page->getHeaderLine('X-Content-Type-Options'))
        ->toBe('nosniff')
        ->and($page->getHeaderLine('Referrer-Policy'))
        ->toBe('same-origin')
        ->and($page->getHeaderLine('Server'))
        ->toBe('nginx');
})->with([
    ['/desk', true],
    ['/desk/p/1/build', true],
    ['/field', true],
    ['/field/outbox', true],
    ['/kit', true],
    ['/m/anything', false],
    ['/b/anything', false],
    ['/join/anything', false],
]);

// Source: RFC 9110, 12.5.4 (Accept-Language). Browsers name languages by their weight, the first first.
it('gives every page in the language that its reader chose, or else the browser', function (
    string $accepted,
    string $cookie,
    string $language,
): void {
    $tags = [];
    foreach (['/desk', '/desk/me', '/field', '/m/anything', '/join', '/reset/anything', '/kit'] as $path) {
        $page = ($this->from)($path, array_filter(['Accept-Language' => $accepted, 'Cookie' => $cookie]));
        expect((string) $page->getBody())->toContain("<html lang=\"$language\">")
            // A phone keeps its page for itself, and would not find it again for another header.
            ->and($page->getHeaderLine('Vary'))->not->toContain('Language')
            ->and($page->getHeaderLine('Content-Security-Policy'))->toContain("default-src 'self'");
        preg_match_all('/modulepreload" crossorigin href="([^"]+)"/', (string) $page->getBody(), $found);
        expect(($this->from)($found[1][0])->getStatusCode())->toBe(200);
        $tags[$path] = $page->getHeaderLine('ETag');
        $other = ($this->from)($path, [
            'Cookie' => 'pin_yard_language='.($language === 'de' ? 'en' : 'de'),
            'If-None-Match' => $tags[$path],
        ]);
        expect($other->getStatusCode())->toBe(200);
    }
})->with([
    ['', '', 'en'],
    ['de', '', 'de'],
    ['de-CH,de;q=0.9,en;q=0.8', '', 'de'],
    ['en-US,en;q=0.9,de;q=0.8', '', 'en'],
    ['fr-FR, fr;q=0.9, de;q=0.7, en;q=0.3', '', 'de'],
    ['sv, en;q=0.5, de;q=0.2', '', 'en'],
    ['den', '', 'en'],
    ['de', 'a=b; pin_yard_language=en', 'en'],
    ['en', 'pin_yard_language=de; a=b', 'de'],
    ['en', 'pin_yard_language=xx', 'en'],
    [str_repeat('x,', 1500), '', 'en'],
]);

it('loads nothing from elsewhere', function (): void {
    foreach (['desk', 'field', 'open', 'kit', 'desk.de', 'field.de', 'open.de'] as $page) {
        $html = (string) file_get_contents(public_path("app/$page.html"));
        preg_match_all('/(?:src|href)="([^"]+)"/', $html, $found);
        expect($found[1])->not->toBeEmpty();
        foreach ($found[1] as $address) {
            expect($address)->toStartWith('/');
        }
    }
    $styles = implode('', array_map(file_get_contents(...), glob(public_path('app/assets/*.css')) ?: []));
    preg_match_all('/url\(([^)]+)\)/', $styles, $found);
    foreach ($found[1] as $address) {
        expect($address)->toMatch('~^[\'"]?(/app/|data:|#)~');
    }
});

it('keeps its secrets', function (string $path): void {
    expect(($this->from)($path)->getStatusCode())->toBeIn([400, 403, 404]);
})->with([
    '/.env',
    '/var/test/.env',
    '/../.env',
    '/%2e%2e/.env',
    '/app/../../composer.json',
    '/composer.json',
    '/index.php/../.env',
    '/storage/logs/laravel.log',
    '/app/desk.html',
    '/.git/config',
    '/vendor/autoload.php',
    '/backdrop/../index.php',
    '/backdrop/own/../backdrops',
    '/backdrop/own/../../.env',
    '/backdrop/own..%2f..%2f.env',
    '/storage/anything',
]);

it('lets browsers keep what cannot change, and ask again for what can', function (): void {
    $asset = basename((glob(public_path('app/assets/*.js')) ?: ['none'])[0]);
    expect(($this->from)("/app/assets/$asset")->getHeaderLine('Cache-Control'))
        ->toContain('immutable')
        ->and(($this->from)('/desk')->getHeaderLine('Cache-Control'))
        ->toBe('no-cache')
        ->and(($this->from)('/app/field-sw.js')->getHeaderLine('Cache-Control'))
        ->toBe('no-cache')
        ->and(($this->from)('/app/field-sw.js')->getHeaderLine('Service-Worker-Allowed'))
        ->toBe('/field')
        ->and(
            ($this->from)('/backdrop/cays.json', ['Accept-Encoding' => 'gzip'])->getHeaderLine(
                'x-encoded-content-encoding',
            ),
        )
        ->toBe('gzip');
});

// Source: OWASP ASVS 4.0.3, V3.4 (cookie-based sessions) and V4.2.2 (cross-site requests).
it('signs in with a cookie that scripts cannot read, and refuses a change without its token', function (): void {
    $account = ['email' => NestPatrol::COORDINATOR, 'password' => NestPatrol::PASSWORD];
    $cookies = implode("\n", $this->http->post('/api/v1/session', ['json' => $account])->getHeader('Set-Cookie'));
    expect($cookies)
        ->toMatch('/pinyard_\d+=[^;]+;.*httponly/i')
        ->and($cookies)
        ->toMatch('/pinyard_\d+=[^;]+;.*samesite=lax/i');
    // What another site can send without being asked: plain text. JSON it cannot (Fetch Standard, CORS-safelisted
    // request headers).
    $forged = $this->http->post('/api/v1/session', [
        'body' => json_encode($account),
        'headers' => ['Content-Type' => 'text/plain', 'Accept' => 'application/json'],
    ]);
    expect($forged->getStatusCode())
        ->toBe(419)
        ->and(json_decode((string) $forged->getBody(), true)['code'])
        ->toBe('page_expired');
    $signedIn = new Client([
        'base_uri' => getenv('PINYARD_TEST_URL'),
        'http_errors' => false,
        'cookies' => true,
        'headers' => ['Accept' => 'application/json'],
    ]);
    expect($signedIn->post('/api/v1/session', ['json' => $account])->getStatusCode())
        ->toBe(200)
        ->and($signedIn->get('/api/v1/me')->getStatusCode())
        ->toBe(200)
        ->and($signedIn->post('/api/v1/programmes', ['json' => ['name' => 'Forged']])->getStatusCode())
        ->toBe(419);
});

it('takes nobody’s session from them by an answer that was on its way while they signed in', function (): void {
    $account = ['email' => NestPatrol::COORDINATOR, 'password' => NestPatrol::PASSWORD];
    $cookies = new CookieJar;
    $browser = new Client([
        'base_uri' => getenv('PINYARD_TEST_URL'), 'http_errors' => false, 'cookies' => $cookies,
    ]);
    $given = static fn (ResponseInterface $answer): array => $answer->getHeader('Set-Cookie');
    $token = static fn (CookieJar $of): array => [
        'X-XSRF-TOKEN' => urldecode((string) $of->getCookieByName('XSRF-TOKEN')?->getValue()),
    ];
    // Nobody is signed in: whatever such an answer brought would come over the cookies of a sign-in before it.
    $late = $browser->get('/api/v1/me');
    expect($late->getStatusCode())->toBe(401)->and($given($late))->toBe([]);
    expect($given($browser->post('/api/v1/session', ['json' => $account])))->not->toBe([]);
    // Nor does one that went out with the session before.
    $before = clone $cookies;
    $anew = $browser->post('/api/v1/session', ['json' => $account, 'headers' => $token($cookies)]);
    expect($anew->getStatusCode())->toBe(200)->and($given($anew))->not->toBe([]);
    $late = $browser->get('/api/v1/me', ['cookies' => $before]);
    expect($late->getStatusCode())->toBe(401)->and($given($late))->toBe([]);
    $now = $browser->get('/api/v1/me');
    expect($now->getStatusCode())->toBe(200)->and($given($now))->toBe([]);
    // Who has lost one of the two is given them again; who signs out is given others.
    $session = new CookieJar(false, array_values(array_filter(
        $cookies->toArray(),
        static fn (array $c): bool => str_starts_with($c['Name'], 'pinyard_') && $c['Name'] !== 'pinyard_known',
    )));
    $again = $browser->get('/api/v1/me', ['cookies' => $session]);
    expect(implode("\n", $given($again)))->toContain('XSRF-TOKEN=');
    $out = $browser->delete('/api/v1/session', ['cookies' => $session, 'headers' => $token($session)]);
    expect($out->getStatusCode())->toBe(204)->and($given($out))->not->toBe([])
        ->and($browser->get('/api/v1/me', ['cookies' => $session])->getStatusCode())->toBe(401);
});

it('gives the manifest that makes the field app installable', function (): void {
    $manifest = json_decode((string) ($this->from)('/icons/field.webmanifest')->getBody(), true);
    expect($manifest)->toMatchArray(['start_url' => '/field', 'scope' => '/field', 'display' => 'standalone']);
    foreach ($manifest['icons'] as $icon) {
        $picture = ($this->from)($icon['src']);
        expect($picture->getStatusCode())->toBe(200);
        if ($icon['type'] === 'image/png') {
            [$width] = getimagesizefromstring((string) $picture->getBody());
            expect("{$width}x$width")->toBe($icon['sizes']);
        }
    }
});

it('makes smaller copies of photos in the queue', function (): void {
    $phone = new Phone(NestPatrol::COORDINATOR, NestPatrol::PASSWORD);
    $programme = collect($phone->get('/api/v1/programmes'))->firstWhere('name', NestPatrol::NAME)['id'];
    $layer = collect($phone->get("/api/v1/programmes/$programme/layers"))->firstWhere('title', 'Nests')['id'];
    $records = $phone->get("/api/v1/layers/$layer/records")['records'];
    $photo = collect($records)->flatMap(fn (array $r): array => $r['photos'])->firstWhere('state', 'stored')['id'];
    $path = sprintf(
        '%s/storage/attachments/%d/%s/%s-thumb.jpg',
        getenv('PINYARD_VAR'),
        $layer,
        substr($photo, -2),
        $photo,
    );
    // The worker may still be at it: just after the start the demo’s other photos are before it.
    for ($i = 0; $i < 400 && ! is_file($path); $i++) {
        usleep(200_000);
        clearstatcache();
    }
    [$width, $height] = getimagesize($path);
    expect(max($width, $height))->toBe(320);
});

it('fills the demo as promised: at least 300 nests with drawn photos, the same on every machine', function (): void {
    $phone = new Phone(NestPatrol::COORDINATOR, NestPatrol::PASSWORD);
    $programmes = $phone->get('/api/v1/programmes');
    $programme = collect($programmes)->firstWhere('name', NestPatrol::NAME)['id'];
    $layer = collect($phone->get("/api/v1/programmes/$programme/layers"))->firstWhere('title', 'Nests');
    expect($layer['records'])
        ->toBeGreaterThanOrEqual(300)
        ->and(collect($programmes)->pluck('name'))
        ->toContain('Lamp Watch');
    $beaches = json_decode((string) file_get_contents(base_path('database/demo/cays/beaches.json')), true);
    expect(array_column($beaches, 'code'))->toHaveCount(21);
    $cays = json_decode((string) file_get_contents(public_path('backdrop/cays.json')), true);
    $kinds = array_count_values(array_map(fn (array $f): string => $f['properties']['kind'], $cays['features']));
    expect($kinds)
        ->toMatchArray(['sector' => 21, 'sand' => 1])
        ->and($kinds['path'])
        ->toBeGreaterThan(4)
        ->and($kinds['village'])
        ->toBe(7);
});

it('opens a public map with less than 200 kB of packed script before the map library', function (): void {
    $manifest = json_decode((string) file_get_contents(public_path('app/manifest.json')), true);
    $seen = [];
    $walk = function (string $name) use (&$walk, &$seen, $manifest): void {
        $chunk = $manifest[$name];
        // The library that draws maps, and what wraps it; it comes behind the page.
        if (isset($seen[$name]) || str_contains($chunk['file'], 'MapView')) {
            return;
        }
        $seen[$name] = strlen((string) gzencode((string) file_get_contents(public_path("app/{$chunk['file']}"))));
        array_map($walk, $chunk['imports'] ?? []);
    };
    $walk('open.html');
    $walk('open/OpenMap.tsx');
    $code = array_sum($seen);
    foreach (Language::KNOWN as $language) {
        // With the sentences of one language, whichever is read.
        $file = $manifest["../../virtual:open-texts/$language"]['file'];
        $texts = strlen((string) gzencode((string) file_get_contents(public_path("app/$file"))));
        expect($texts)->toBeGreaterThan(3_000)
            ->and($code + $texts)->toBeGreaterThan(50_000)->toBeLessThan(200_000);
    }
});
