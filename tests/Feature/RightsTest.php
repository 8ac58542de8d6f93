<?php

declare(strict_types=1);

use App\Models\Attachment;
use App\Models\Audience;
use App\Models\Conflict;
use App\Models\Export;
use App\Models\Fill;
use App\Models\Import;
use App\Models\Mark;
use App\Models\Role;
use App\Models\Shelf;
use App\Models\Upload;
use App\Plan\Outings;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use PinYard\Record\RecordId;

/*
 * Who gets past the door of each route: a stranger, someone signed in from outside (who never was in the programme,
 * has left it, or coordinates another), a crew member, a coordinator, a maker, a guest who is shown the layer.
 * `open` means past the door (whatever the request then lacks), a number is the status that turns one away.
 * A route that is not in this table fails the first test.
 */
const MEMBERS = [401, 404, 'open', 'open', 'open', 'open'];
const COORDINATORS = [401, 404, 403, 'open', 403, 403];
/** What crews do: whoever makes maps and whoever looks may not. */
const CREWS = [401, 404, 'open', 'open', 403, 403];
const MAKERS = [401, 404, 403, 'open', 'open', 403];
const SIGNED_IN = [401, 'open', 'open', 'open', 'open', 'open'];
const ANYONE = ['open', 'open', 'open', 'open', 'open', 'open'];
const RIGHTS = [
    'GET health' => ANYONE,
    'GET schemas/layer-design.json' => ANYONE,
    'GET api/v1/openapi.json' => ANYONE,
    'POST api/v1/session' => ANYONE,
    'GET api/v1/about' => ANYONE,
    'POST api/v1/password/forgot' => ANYONE,
    'GET api/v1/address/{token}' => ANYONE,
    'POST api/v1/address/{token}' => ANYONE,
    'PATCH api/v1/me' => SIGNED_IN,
    'POST api/v1/me/address' => SIGNED_IN,
    'GET api/v1/password/{token}' => ANYONE,
    'POST api/v1/password/{token}' => ANYONE,
    'DELETE api/v1/session' => SIGNED_IN,
    'GET api/v1/me' => SIGNED_IN,
    'GET api/v1/signed-in' => SIGNED_IN,
    'PUT api/v1/me/password' => SIGNED_IN,
    'POST api/v1/me/second-factor' => SIGNED_IN,
    'PUT api/v1/me/second-factor' => SIGNED_IN,
    'DELETE api/v1/me/second-factor' => SIGNED_IN,
    'GET api/v1/me/devices' => SIGNED_IN,
    'DELETE api/v1/me/devices/{device}' => SIGNED_IN,
    'GET api/v1/mail-box' => SIGNED_IN,
    'GET api/v1/join/{token}' => ANYONE,
    'POST api/v1/join/{token}' => ANYONE,
    'GET api/v1/open/maps/{token}' => ANYONE,
    'GET api/v1/open/maps/{token}/picture.png' => ANYONE,
    'GET api/v1/open/maps/{token}/layers/{part}/features.geojson' => ANYONE,
    'GET api/v1/open/maps/{token}/layers/{part}/records/{record}' => ANYONE,
    'GET api/v1/open/maps/{token}/table' => ANYONE,
    'GET api/v1/open/maps/{token}/wall' => ANYONE,
    'GET api/v1/open/maps/{token}/photos/{attachment}/{size}' => ANYONE,
    'GET api/v1/open/boards/{token}' => ANYONE,
    'GET api/v1/open/boards/{token}/tiles/{tile}/layers/{part}/features.geojson' => ANYONE,
    'GET api/v1/open/boards/{token}/tiles/{tile}/layers/{part}/records/{record}' => ANYONE,
    'GET api/v1/open/boards/{token}/tiles/{tile}/photos/{attachment}/{size}' => ANYONE,
    'GET api/v1/open/gates/{token}' => ANYONE,
    'GET api/v1/programmes/{programme}/gate' => COORDINATORS,
    'PATCH api/v1/programmes/{programme}/gate' => COORDINATORS,
    'GET api/v1/programmes' => SIGNED_IN,
    'POST api/v1/programmes' => SIGNED_IN,
    'GET api/v1/programmes/{programme}' => MEMBERS,
    'PATCH api/v1/programmes/{programme}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/storage' => COORDINATORS,
    'GET api/v1/programmes/{programme}/people' => COORDINATORS,
    'POST api/v1/programmes/{programme}/people' => COORDINATORS,
    'DELETE api/v1/programmes/{programme}/people/{member}' => COORDINATORS,
    'PATCH api/v1/programmes/{programme}/people/{member}' => COORDINATORS,
    'POST api/v1/programmes/{programme}/people/several' => COORDINATORS,
    'POST api/v1/programmes/{programme}/invitations' => COORDINATORS,
    'DELETE api/v1/programmes/{programme}/invitations/{invitation}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/audit' => COORDINATORS,
    'GET api/v1/programmes/{programme}/groups' => MEMBERS,
    'POST api/v1/programmes/{programme}/groups' => COORDINATORS,
    'PATCH api/v1/groups/{group}' => COORDINATORS,
    'DELETE api/v1/groups/{group}' => COORDINATORS,
    'PUT api/v1/groups/{group}/people/{member}' => COORDINATORS,
    'DELETE api/v1/groups/{group}/people/{member}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/marks' => MEMBERS,
    'POST api/v1/programmes/{programme}/marks' => MAKERS,
    'GET api/v1/open/marks/{mark}' => ANYONE,
    'POST api/v1/programmes/{programme}/trails' => CREWS,
    'GET api/v1/programmes/{programme}/trails.geojson' => COORDINATORS,
    'GET api/v1/programmes/{programme}/disputes' => COORDINATORS,
    'GET api/v1/programmes/{programme}/asked' => COORDINATORS,
    'GET api/v1/layers/{layer}/records/{record}/asked' => MEMBERS,
    'POST api/v1/layers/{layer}/records/{record}/asked' => COORDINATORS,
    'POST api/v1/layers/{layer}/accepted' => COORDINATORS,
    'GET api/v1/layers/{layer}/flags' => COORDINATORS,
    'PUT api/v1/layers/{layer}/flags' => COORDINATORS,
    'DELETE api/v1/asked/{asked}' => COORDINATORS,
    'POST api/v1/disputes/{dispute}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/questions' => MEMBERS,
    'PUT api/v1/programmes/{programme}/questions' => COORDINATORS,
    'GET api/v1/programmes/{programme}/ready' => COORDINATORS,
    'GET api/v1/programmes/{programme}/designs.json' => MEMBERS,
    'GET api/v1/programmes/{programme}/things' => MEMBERS,
    'POST api/v1/programmes/{programme}/shelves' => COORDINATORS,
    'PATCH api/v1/programmes/{programme}/shelves/{shelf}' => COORDINATORS,
    'DELETE api/v1/programmes/{programme}/shelves/{shelf}' => COORDINATORS,
    'POST api/v1/things' => SIGNED_IN,
    'GET api/v1/bin' => SIGNED_IN,
    'GET api/v1/search' => SIGNED_IN,
    'GET api/v1/programmes/{programme}/outings' => MEMBERS,
    'POST api/v1/programmes/{programme}/outings' => COORDINATORS,
    'PUT api/v1/outings/{outing}' => COORDINATORS,
    'DELETE api/v1/outings/{outing}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/lists' => MEMBERS,
    'POST api/v1/programmes/{programme}/lists' => COORDINATORS,
    'GET api/v1/lists/{list}' => MEMBERS,
    'POST api/v1/lists/{list}/review' => COORDINATORS,
    'PUT api/v1/lists/{list}' => COORDINATORS,
    'DELETE api/v1/lists/{list}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/designs.xlsx' => MEMBERS,
    'POST api/v1/designs/read' => SIGNED_IN,
    'GET api/v1/starters' => SIGNED_IN,
    'GET api/v1/formulas/functions' => SIGNED_IN,
    'POST api/v1/designs/check' => SIGNED_IN,
    'POST api/v1/layers/{layer}/fills/preview' => COORDINATORS,
    'POST api/v1/layers/{layer}/fills' => COORDINATORS,
    'GET api/v1/layers/{layer}/fills/{fill}' => COORDINATORS,
    'DELETE api/v1/layers/{layer}/fills/{fill}' => COORDINATORS,
    'POST api/v1/layers/{layer}/formulas/try' => COORDINATORS,
    'GET api/v1/programmes/{programme}/layers' => MEMBERS,
    'POST api/v1/programmes/{programme}/layers' => COORDINATORS,
    'GET api/v1/layers/{layer}' => MEMBERS,
    'POST api/v1/layers/{layer}/design/review' => COORDINATORS,
    'PUT api/v1/layers/{layer}/design' => COORDINATORS,
    'GET api/v1/layers/{layer}/records' => MEMBERS,
    'GET api/v1/layers/{layer}/records.geojson' => MEMBERS,
    'GET api/v1/layers/{layer}/records/{record}' => MEMBERS,
    // What is missing in a record is said before whether one may add it; who may, is in AudiencesTest.
    'POST api/v1/layers/{layer}/records' => MEMBERS,
    // Made by the crew member; the layer lets crews change their own records and delete none.
    'PATCH api/v1/layers/{layer}/records/{record}' => MEMBERS,
    'DELETE api/v1/layers/{layer}/records/{record}' => COORDINATORS,
    'POST api/v1/layers/{layer}/records/{record}/restore' => CREWS,
    'GET api/v1/layers/{layer}/records/{record}/history' => MEMBERS,
    'GET api/v1/layers/{layer}/records/{record}/visits' => MEMBERS,
    'POST api/v1/places/read' => SIGNED_IN,
    'GET api/v1/layers/{layer}/slices' => MEMBERS,
    'POST api/v1/layers/{layer}/slices' => COORDINATORS,
    'POST api/v1/layers/{layer}/slices/try' => MEMBERS,
    'GET api/v1/layers/{layer}/askable' => MEMBERS,
    'POST api/v1/layers/{layer}/classes' => MEMBERS,
    'PUT api/v1/layers/{layer}/slices/{slice}' => COORDINATORS,
    'DELETE api/v1/layers/{layer}/slices/{slice}' => COORDINATORS,
    'POST api/v1/layers/{layer}/records/{record}/files' => MEMBERS,
    'DELETE api/v1/attachments/{attachment}' => CREWS,
    'POST api/v1/attachments/{attachment}/restore' => CREWS,
    'GET api/v1/attachments/{attachment}/{size}' => MEMBERS,
    'GET api/v1/programmes/{programme}/imports' => COORDINATORS,
    'POST api/v1/programmes/{programme}/imports' => COORDINATORS,
    'GET api/v1/imports/{import}' => COORDINATORS,
    'PATCH api/v1/imports/{import}/files/{file}' => COORDINATORS,
    'PUT api/v1/imports/{import}/settings' => COORDINATORS,
    'POST api/v1/imports/{import}/into/{layer}' => COORDINATORS,
    'GET api/v1/imports/{import}/systems' => COORDINATORS,
    'POST api/v1/imports/{import}/land' => COORDINATORS,
    'POST api/v1/imports/{import}/cancel' => COORDINATORS,
    'POST api/v1/imports/{import}/undo' => COORDINATORS,
    'GET api/v1/imports/{import}/waiting' => COORDINATORS,
    'GET api/v1/imports/{import}/waiting.csv' => COORDINATORS,
    'PATCH api/v1/imports/{import}/waiting/{row}' => COORDINATORS,
    'POST api/v1/imports/{import}/retry' => COORDINATORS,
    'GET api/v1/imports/{import}/photos/{row}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/places' => MEMBERS,
    'POST api/v1/programmes/{programme}/places' => COORDINATORS,
    'GET api/v1/layers/{layer}/formats' => MEMBERS,
    'POST api/v1/layers/{layer}/exports' => MEMBERS,
    // A file is its maker's alone; here the coordinator made it.
    'GET api/v1/exports/{export}' => [401, 404, 404, 'open', 404, 404],
    'GET api/v1/exports/{export}/file' => [401, 404, 404, 'open', 404, 404],
    'DELETE api/v1/exports/{export}' => [401, 404, 404, 'open', 404, 404],
    'GET api/v1/backdrops' => SIGNED_IN,
    'GET api/v1/packs' => SIGNED_IN,
    'GET api/v1/programmes/{programme}/packs/counts' => MEMBERS,
    'GET api/v1/programmes/{programme}/packs/places' => MEMBERS,
    'POST api/v1/sync' => SIGNED_IN,
    'OPTIONS api/v1/uploads' => SIGNED_IN,
    'POST api/v1/uploads' => SIGNED_IN,
    // An upload is its beginner's alone; here that is the crew member.
    'HEAD api/v1/uploads/{upload}' => [401, 404, 'open', 404, 404, 404],
    'PATCH api/v1/uploads/{upload}' => [401, 404, 'open', 404, 404, 404],
    'DELETE api/v1/uploads/{upload}' => [401, 404, 'open', 404, 404, 404],
    'GET api/v1/programmes/{programme}/maps' => MEMBERS,
    'POST api/v1/programmes/{programme}/maps' => MAKERS,
    'GET api/v1/layers/{layer}/together' => MEMBERS,
    'GET api/v1/maps/{map}' => MEMBERS,
    'PATCH api/v1/maps/{map}' => MAKERS,
    'GET api/v1/maps/{map}/view' => MEMBERS,
    'GET api/v1/maps/{map}/picture.png' => MEMBERS,
    'GET api/v1/maps/{map}/table' => MEMBERS,
    'GET api/v1/maps/{map}/wall' => MEMBERS,
    'GET api/v1/maps/{map}/layers/{part}/features.geojson' => MEMBERS,
    'GET api/v1/maps/{map}/layers/{part}/records/{record}' => MEMBERS,
    'PUT api/v1/programmes/{programme}/work-seen/{audience}' => COORDINATORS,
    'GET api/v1/programmes/{programme}/shown-to' => MAKERS,
    'GET api/v1/maps/{map}/reach' => MAKERS,
    'GET api/v1/boards/{board}/reach' => MAKERS,
    'GET api/v1/maps/{map}/advice' => MAKERS,
    'GET api/v1/maps/{map}/addable' => MAKERS,
    'GET api/v1/programmes/{programme}/boards' => MEMBERS,
    'POST api/v1/programmes/{programme}/boards' => MAKERS,
    'GET api/v1/boards/{board}' => MEMBERS,
    'PATCH api/v1/boards/{board}' => MAKERS,
    'GET api/v1/boards/{board}/answers' => MEMBERS,
    'GET api/v1/boards/{board}/tiles/{tile}/layers/{part}/features.geojson' => MEMBERS,
    'GET api/v1/boards/{board}/tiles/{tile}/layers/{part}/records/{record}' => MEMBERS,
    'GET api/v1/layers/{layer}/measurable' => MEMBERS,
    'GET api/v1/programmes/{programme}/proposals' => MEMBERS,
    'GET api/v1/programmes/{programme}/audiences' => COORDINATORS,
    'PUT api/v1/layers/{layer}/seen-by/{audience}' => COORDINATORS,
    'GET api/v1/layers/{layer}/blurred' => COORDINATORS,
    'GET api/v1/programmes/{programme}/alerts' => COORDINATORS,
    'POST api/v1/programmes/{programme}/alerts' => COORDINATORS,
    'POST api/v1/programmes/{programme}/alerts/try' => COORDINATORS,
    'PUT api/v1/alerts/{alert}' => COORDINATORS,
    'PATCH api/v1/alerts/{alert}' => COORDINATORS,
    'DELETE api/v1/alerts/{alert}' => COORDINATORS,
    // Each is told of their own.
    'GET api/v1/notices' => SIGNED_IN,
    'POST api/v1/notices/read' => SIGNED_IN,
];

it('has a rule for every route, and no rule without a route', function (): void {
    $routes = allRoutes();
    expect(array_values(array_diff($routes, array_keys(RIGHTS))))
        ->toBe([])
        ->and(array_values(array_diff(array_keys(RIGHTS), $routes)))
        ->toBe([]);
});

it('lets past the door only who may', function (string $name): void {
    $coordinator = $this->person();
    $programme = $this->programme($coordinator);
    $crew = $this->crew($programme);
    $layer = $this->layer($programme);
    $bytes = $this->jpeg();
    $announced = $this->announce($bytes);
    $operation = $this->add($layer, ['photos' => [$announced]]);
    $this->sync($crew, [$operation]);
    $photo = Attachment::query()->findOrFail(RecordId::of($announced['id'])->bytes());
    $upload = Upload::query()->create([
        'id' => (string) Str::uuid7(),
        'attachment_id' => $photo->id,
        'user_id' => $crew->id,
        'length' => strlen($bytes),
        'expires_at' => now()->addDay(),
    ]);
    @mkdir(storage_path('uploads'), recursive: true);
    touch($upload->file());
    if (str_contains($name, 'attachment')) {
        file_put_contents($upload->file(), $bytes);
        App\Files\FileArrival::finish($upload, $photo);
    }
    $map = $this->mapOf($layer, ['card' => ['fields' => ['code'], 'photos' => true]], Audience::Link);
    $map->update([
        'beside' => PinYard\Carto\MapTable::read(
            ['columns' => ['code']],
            $map->layers[0]['id'],
            $layer->design(),
            false,
        )->toArray(),
    ]);
    $board = $programme->boards()->make(['title' => 'B', 'tiles' => array_map(
        static fn (array $tile): array => $tile + ['names' => true],
        App\Boards\BoardDraft::tiles($programme, $this->person()),
    )]);
    $board->openTo(Audience::Link);
    $gate = Str::random(22);
    App\Models\Gate::query()->create([
        'programme_id' => $programme->id,
        'design' => ['title' => 'G', 'about' => '', 'colour' => '#0F5C53', 'hung' => []],
        'open' => true,
        'link_token' => $gate,
    ]);
    $invitation = 'invite-'.$programme->id;
    $invited = $programme
        ->invitations()
        ->create([
            'token_hash' => hash('sha256', $invitation),
            'name' => 'N',
            'email' => Str::random(9).'@example.test',
            'role' => 'crew',
            'expires_at' => now()->addDay(),
        ]);

    [$method, $uri] = explode(' ', $name, 2);
    $reset = 'reset-'.$programme->id;
    DB::table('password_resets')->insert([
        'token_hash' => hash('sha256', $reset),
        'user_id' => $coordinator->id,
        'expires_at' => now()->addHour(),
    ]);
    DB::table('address_changes')->insert([
        'token_hash' => hash('sha256', "address-$programme->id"),
        'user_id' => $coordinator->id,
        'email' => Str::random(9).'@example.test',
        'expires_at' => now()->addHour(),
    ]);
    $token = str_contains($uri, 'password') || str_contains($uri, 'address')
        ? (str_contains($uri, 'address') ? "address-$programme->id" : $reset)
        : (str_contains($uri, 'join')
            ? $invitation
            : (str_contains($uri, 'boards')
                ? $board->link_token
                : (str_contains($uri, 'gates')
                    ? $gate
                    : $map->link_token)));
    $address =
        '/'.
        strtr($uri, [
            '{shelf}' => Shelf::query()->create(['programme_id' => $programme->id, 'name' => 'S'])->id,
            '{outing}' => Outings::save($programme, null, [
                'title' => 'O',
                'from' => '2026-11-01',
                'to' => '2026-11-02',
                'layers' => [$layer->id],
            ])->id,
            '{list}' => $this->choiceList($programme)->id,
            '{fill}' => Fill::query()->create([
                'layer_id' => $layer->id,
                'field' => 'clutch',
                'formula' => '1',
                'state' => 'undone',
            ])->id,
            '{alert}' => $programme->alerts()->create([
                'name' => 'A',
                'plan' => [
                    'rule' => ['kind' => 'silence', 'hours' => 12],
                    'to' => ['coordinators' => true, 'crews' => []],
                    'by_mail' => false,
                    'on_phones' => false,
                    'rest' => ['minutes' => 0, 'from' => null, 'until' => null],
                ],
            ])->id,
            '{slice}' => $layer->slices()->create(['name' => 'S', 'filter' => ['all' => []]])->id,
            '{programme}' => $programme->id,
            '{layer}' => $layer->id,
            '{record}' => str_contains($uri, 'open/')
                ? $this->behindLink(str_contains($uri, 'boards') ? $board : $map, $operation['record'])
                : $operation['record'],
            '{attachment}' => str_contains($uri, 'open/')
                ? $this->behindLink(str_contains($uri, 'boards') ? $board : $map, $announced['id'])
                : $announced['id'],
            '{size}' => 'thumb',
            '{part}' => str_contains($uri, 'boards') ? 'l0000000' : $map->layers[0]['id'],
            '{tile}' => 'map',
            '{group}' => $programme->groups()->create([
                'name' => 'G', 'may_change' => false, 'members_seen' => false,
            ])->id,
            '{invitation}' => $invited->id,
            '{audience}' => 'crews',
            '{member}' => $programme->members()->where('user_id', $crew->id)->value('id'),
            '{mark}' => Mark::query()->create([
                'token' => Str::lower(Str::random(22)),
                'programme_id' => $programme->id,
                'name' => 'M',
                'type' => 'svg',
                'sha256' => Str::random(64),
                'body' => '<svg/>',
            ])->token,
            '{asked}' => App\Models\RecordQuestion::query()->create([
                'layer_id' => $layer->id,
                'record_id' => RecordId::of($operation['record'])->bytes(),
                'to_user' => $crew->id,
                'text' => 'T',
                'asked_at' => now(),
            ])->id,
            '{dispute}' => Conflict::query()->create([
                'layer_id' => $layer->id,
                'record_id' => RecordId::make()->bytes(),
                'op' => RecordId::make()->bytes(),
                'user_id' => $crew->id,
                'kind' => 'held',
                'operation' => [],
                'captured_at' => now(),
                'received_at' => now(),
            ])->id,
            '{import}' => Import::query()->create([
                'programme_id' => $programme->id,
                'user_id' => $coordinator->id,
                'state' => 'sending',
                'files' => [['name' => 'a.csv', 'bytes' => 4]],
            ])->id,
            '{file}' => 0,
            '{row}' => 2,
            '{device}' => 'ab12',
            '{export}' => Export::query()->create([
                'layer_id' => $layer->id,
                'user_id' => $coordinator->id,
                'state' => 'working',
                'name' => 'a.csv',
                'settings' => ['format' => 'csv'],
            ])->id,
            '{upload}' => $upload->id,
            '{map}' => $map->id,
            '{board}' => $board->id,
            '{token}' => $token,
        ]);
    // An upload for no photo is the one answer of 404 that says what is missing; so is that of an import without
    // pictures.
    $missing = in_array(
        $name,
        ['POST api/v1/uploads', 'GET api/v1/imports/{import}/photos/{row}', 'DELETE api/v1/me/devices/{device}'],
        true,
    )
        ? [404]
        // Asking for a link counts for all who name no account, so the last of these are told to wait.
        : [200, 201, 202, 204, 409, 415, 422, ...$name === 'POST api/v1/password/forgot' ? [429] : []];
    $left = $this->crew($programme);
    $membership = $programme->members()->where('user_id', $left->id)->firstOrFail();
    App\Models\FormerMember::query()->create([
        ...$membership->only(['programme_id', 'user_id', 'crew_id']), 'role' => Role::Crew, 'left_at' => now(),
    ]);
    $membership->delete();
    $elsewhere = $this->person('Elsewhere');
    $this->programme($elsewhere);
    // A guest is shown what was said of guests, and here all of it.
    $layer->update(['seen_by' => ['guests' => PinYard\Audience\Rule::everything()->toStored()]]);
    [$never, $inside, $may, $makes, $looks] = array_slice(RIGHTS[$name], 1);
    $people = [
        ['a stranger', null, RIGHTS[$name][0]],
        ['an outsider', $this->person('Outsider'), $never],
        ['a former member', $left, $never],
        ['a coordinator of another', $elsewhere, $never],
        ['a crew member', $crew, $inside],
        ['a coordinator', $coordinator, $may],
        ['a maker', $this->member($programme, Role::Maker), $makes],
        ['a guest', $this->member($programme, Role::Guest), $looks],
    ];
    foreach ($people as $i => [$who, $person, $expected]) {
        $this->withServerVariables(['REMOTE_ADDR' => "10.9.0.$i"]);
        app('auth')->forgetGuards();
        if ($person !== null) {
            $this->actingAs($person);
        }
        // What one of them does is taken back before the next one comes.
        DB::beginTransaction();
        $status = $this->json($method, $address)->getStatusCode();
        DB::rollBack();
        // Past the door, what is missing in the request may still be said (422, 409, 415), but never 401, 403, 404 or a
        // fault.
        expect($status)->toBeIn($expected === 'open' ? $missing : [$expected], "$name for $who");
    }
})->with(array_combine(array_keys(RIGHTS), array_map(static fn (string $name): array => [$name], array_keys(RIGHTS))));

it('closes a link when the audience is narrowed, and keeps it for when it is widened again', function (): void {
    $programme = $this->programme();
    $layer = $this->layer($programme);
    $map = $this->mapOf($layer, [], Audience::Link);
    $address = "/api/v1/open/maps/{$map->link_token}";
    $this->getJson($address)->assertOk();
    $map->openTo(Audience::Programme);
    $of = "/layers/{$map->layers[0]['id']}";
    foreach (['', "$of/features.geojson", "$of/records/".RecordId::make()->text] as $part) {
        $this->getJson($address.$part)->assertNotFound();
    }
    $map->openTo(Audience::Link);
    $this->getJson($address)->assertOk();
    $this->getJson('/api/v1/open/maps/'.Str::random(22))->assertNotFound();
});

it(
    'shows crew members who see only their own nothing of the others\': no record, photo, tile or count',
    function (): void {
        $programme = $this->programme();
        [$ann, $ben] = [$this->crew($programme), $this->crew($programme)];
        $layer = $this->layer($programme, ['rights' => ['crew' => ['add' => true, 'see' => 'own']]]);
        $bytes = $this->jpeg();
        $photo = $this->announce($bytes);
        $his = $this->add($layer, ['photos' => [$photo]]);
        $hers = $this->add($layer);
        $this->sync($ben, [$his]);
        $news = $this->sync($ann, [$hers], [$layer->id => 0])['news'][$layer->id];
        expect(array_column($news['records'], 'id'))->toBe([$hers['record']]);

        $base = "/api/v1/layers/{$layer->id}";
        $this->actingAs($ann);
        expect($this->getJson("$base/records")->json('total'))
            ->toBe(1)
            ->and($this->getJson("$base/records.geojson")->json('features'))
            ->toHaveCount(1)
            ->and($this->getJson("/api/v1/programmes/{$programme->id}/layers")->json('0.records'))
            ->toBe(1)
            ->and($this->getJson("/api/v1/programmes/{$programme->id}")->json('stages.check.records'))
            ->toBe(1)
            ->and(
                collect($this->getJson('/api/v1/packs')->json())->firstWhere('programme', $programme->id)['layers'][0][
                    'records'
                ],
            )
            ->toBe(1);
        $this->getJson("$base/records/{$his['record']}")->assertNotFound();
        $this->getJson("/api/v1/attachments/{$photo['id']}/original")->assertNotFound();

        $map = $this->mapOf($layer, [], Audience::Programme);
        $board = $programme->boards()->make([
            'title' => 'B', 'tiles' => App\Boards\BoardDraft::tiles($programme, $this->person()),
        ]);
        $board->openTo(Audience::Programme);
        $count = fn (): int => $this->getJson("/api/v1/boards/{$board->id}/answers")->json('tiles.0.answer.value');
        expect($this->getJson("/api/v1/maps/{$map->id}/view")->json('layers.0.total'))
            ->toBe(1)
            ->and($count())
            ->toBe(1);
        $this->actingAs($programme->members()->first()->user);
        expect($count())->toBe(2);
    },
);

it('leaves nothing with a visitor: no session, no cookie', function (): void {
    $programme = $this->programme();
    $map = $this->mapOf($this->layer($programme), [], Audience::Link);
    expect(
        $this->getJson("/api/v1/open/maps/{$map->link_token}")
            ->assertOk()
            ->headers->getCookies(),
    )->toBe([]);
});
