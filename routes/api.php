<?php

declare(strict_types=1);

use App\Http\Controllers\AcceptanceController;
use App\Http\Controllers\AccountController;
use App\Http\Controllers\AddressController;
use App\Http\Controllers\AlertController;
use App\Http\Controllers\AttachmentController;
use App\Http\Controllers\AudienceController;
use App\Http\Controllers\AuditController;
use App\Http\Controllers\BackdropController;
use App\Http\Controllers\BoardController;
use App\Http\Controllers\CatalogueController;
use App\Http\Controllers\ClassesController;
use App\Http\Controllers\ConflictController;
use App\Http\Controllers\ExportController;
use App\Http\Controllers\FillController;
use App\Http\Controllers\FlagController;
use App\Http\Controllers\FormulaController;
use App\Http\Controllers\GateController;
use App\Http\Controllers\GazetteerController;
use App\Http\Controllers\GroupController;
use App\Http\Controllers\HealthController;
use App\Http\Controllers\ImportController;
use App\Http\Controllers\InvitationController;
use App\Http\Controllers\JoinController;
use App\Http\Controllers\LayerController;
use App\Http\Controllers\ListController;
use App\Http\Controllers\MapController;
use App\Http\Controllers\MarkController;
use App\Http\Controllers\NoticeController;
use App\Http\Controllers\OpenController;
use App\Http\Controllers\OutingController;
use App\Http\Controllers\PackController;
use App\Http\Controllers\PeopleController;
use App\Http\Controllers\PlaceController;
use App\Http\Controllers\PlanController;
use App\Http\Controllers\ProgrammeController;
use App\Http\Controllers\RecordController;
use App\Http\Controllers\RecordQuestionController;
use App\Http\Controllers\RejectedRowController;
use App\Http\Controllers\SchemaController;
use App\Http\Controllers\SecondFactorController;
use App\Http\Controllers\SessionController;
use App\Http\Controllers\SliceController;
use App\Http\Controllers\SyncController;
use App\Http\Controllers\TrailController;
use App\Http\Controllers\UploadController;
use App\Http\Middleware\CsrfOfSignedIn;
use App\Http\Middleware\ReadJson;
use App\Http\Middleware\SamePerson;
use App\Http\Middleware\SecondDemanded;
use App\Http\Middleware\SeenAs;
use Illuminate\Cookie\Middleware\AddQueuedCookiesToResponse;
use Illuminate\Session\Middleware\StartSession;
use Illuminate\Support\Facades\Route;

/*
 * Every route stands in the OpenAPI description and in the table of rights in tests/Feature/RightsTest.php;
 * tests fail for one that does not.
 */

// A number of a thing is a whole number, written as one: MariaDB would take `12x` for 12, and find it.
Route::patterns([
    ...array_fill_keys(
        [
            'programme', 'layer', 'map', 'board', 'import', 'member', 'row', 'list', 'fill', 'shelf', 'outing',
            'dispute', 'asked', 'export', 'slice', 'alert', 'group', 'invitation',
        ],
        '[1-9][0-9]{0,17}',
    ),
    'file' => '[0-9]{1,6}',
    'token' => '[A-Za-z0-9_-]{1,80}',
    'device' => '[0-9a-f]{1,64}',
    'mark' => '[a-z0-9]{1,40}',
    'audience' => '[a-z]{4,6}(-[0-9]{1,18})?',
    'tile' => '[A-Za-z0-9_-]{1,40}',
]);

Route::get('health', HealthController::class)->withoutMiddleware('web');
Route::get('schemas/layer-design.json', [SchemaController::class, 'layerDesign'])->withoutMiddleware('web');

Route::prefix('api/v1')->group(function (): void {
    Route::get('openapi.json', [SchemaController::class, 'openApi'])->withoutMiddleware('web');

    Route::post('session', [SessionController::class, 'store'])->middleware([ReadJson::class, 'throttle:sign-in']);
    Route::get('about', [AccountController::class, 'about'])->withoutMiddleware('web');
    Route::post('password/forgot', [AccountController::class, 'forgot'])
        ->middleware([ReadJson::class, 'throttle:forgot']);
    Route::get('password/{token}', [AccountController::class, 'showReset'])->middleware('throttle:sign-in');
    Route::post('password/{token}', [AccountController::class, 'reset'])
        ->middleware([ReadJson::class, 'throttle:sign-in']);
    Route::get('address/{token}', [AddressController::class, 'show'])->middleware('throttle:sign-in');
    Route::post('address/{token}', [AddressController::class, 'use'])
        ->middleware([ReadJson::class, 'throttle:sign-in']);
    Route::get('join/{token}', [JoinController::class, 'show'])->middleware('throttle:sign-in');
    Route::post('join/{token}', [JoinController::class, 'store'])->middleware([ReadJson::class, 'throttle:sign-in']);

    // No session: a visitor leaves nothing behind, and none is made for each of their requests.
    Route::prefix('open')->withoutMiddleware([StartSession::class,
        CsrfOfSignedIn::class, AddQueuedCookiesToResponse::class])->group(function (): void {
            Route::get('maps/{token}', [OpenController::class, 'map']);
            Route::get('maps/{token}/picture.png', [OpenController::class, 'picture']);
            Route::get('maps/{token}/layers/{part}/features.geojson', [OpenController::class, 'features']);
            Route::get('maps/{token}/layers/{part}/records/{record}', [OpenController::class, 'card']);
            Route::get('maps/{token}/wall', [OpenController::class, 'wall']);
            Route::get('maps/{token}/table', [OpenController::class, 'table']);
            Route::get('maps/{token}/photos/{attachment}/{size}', [OpenController::class, 'photo'])
                ->whereIn('size', ['thumb', 'view']);
            Route::get('boards/{token}', [OpenController::class, 'board']);
            Route::get('boards/{token}/tiles/{tile}/layers/{part}/features.geojson', [
                OpenController::class,
                'tileFeatures',
            ]);
            Route::get('boards/{token}/tiles/{tile}/layers/{part}/records/{record}', [
                OpenController::class,
                'tileCard',
            ]);
            Route::get('boards/{token}/tiles/{tile}/photos/{attachment}/{size}', [OpenController::class, 'tilePhoto'])
                ->whereIn('size', ['thumb', 'view']);
            Route::get('gates/{token}', [OpenController::class, 'gate']);
            Route::get('marks/{mark}', [MarkController::class, 'show']);
        });

    $signedIn = ['auth', SamePerson::class, SeenAs::class, SecondDemanded::class, ReadJson::class];
    Route::middleware($signedIn)->group(function (): void {
        Route::delete('session', [SessionController::class, 'destroy']);
        Route::get('me', [SessionController::class, 'show']);
        Route::patch('me', [AccountController::class, 'rename']);
        Route::post('me/address', [AddressController::class, 'ask'])
            ->middleware(['throttle:sign-in', 'throttle:address']);
        Route::put('me/password', [AccountController::class, 'change'])->middleware('throttle:sign-in');
        Route::post('me/second-factor', [SecondFactorController::class, 'begin'])->middleware('throttle:sign-in');
        Route::put('me/second-factor', [SecondFactorController::class, 'confirm'])->middleware('throttle:sign-in');
        Route::delete('me/second-factor', [SecondFactorController::class, 'end'])->middleware('throttle:sign-in');
        Route::get('me/devices', [AccountController::class, 'devices']);
        Route::delete('me/devices/{device}', [AccountController::class, 'signOut']);
        Route::get('mail-box', [AccountController::class, 'mailBox']);
        // For nginx alone, before it takes the bytes of an upload.
        Route::get('signed-in', [SessionController::class, 'signedIn']);

        Route::get('programmes', [ProgrammeController::class, 'index']);
        Route::post('programmes', [ProgrammeController::class, 'store']);
        Route::get('programmes/{programme}', [ProgrammeController::class, 'show'])->can('view', 'programme');
        Route::patch('programmes/{programme}', [ProgrammeController::class, 'update'])->can('manage', 'programme');
        Route::get('programmes/{programme}/storage', [ProgrammeController::class, 'storage'])
            ->can('manage', 'programme');
        Route::get('programmes/{programme}/people', [PeopleController::class, 'index'])->can('manage', 'programme');
        Route::delete('programmes/{programme}/people/{member}', [PeopleController::class, 'destroy'])
            ->can('manage', 'programme');
        Route::post('programmes/{programme}/people', [InvitationController::class, 'store'])
            ->can('manage', 'programme');
        Route::post('programmes/{programme}/people/several', [InvitationController::class, 'several'])
            ->can('manage', 'programme');
        Route::patch('programmes/{programme}/people/{member}', [PeopleController::class, 'update'])
            ->can('manage', 'programme');
        Route::post('programmes/{programme}/invitations', [InvitationController::class, 'many'])
            ->can('manage', 'programme');
        Route::delete('programmes/{programme}/invitations/{invitation}', [InvitationController::class, 'takeBack'])
            ->can('manage', 'programme');
        Route::get('programmes/{programme}/audit', AuditController::class)->can('manage', 'programme');
        Route::get('programmes/{programme}/groups', [GroupController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/groups', [GroupController::class, 'store'])->can('manage', 'programme');
        Route::patch('groups/{group}', [GroupController::class, 'update'])->can('manage', 'group');
        Route::delete('groups/{group}', [GroupController::class, 'destroy'])->can('manage', 'group');
        Route::put('groups/{group}/people/{member}', [GroupController::class, 'join'])->can('manage', 'group');
        Route::delete('groups/{group}/people/{member}', [GroupController::class, 'leave'])->can('manage', 'group');

        Route::get('programmes/{programme}/questions', [PlanController::class, 'questions'])->can('view', 'programme');
        Route::put('programmes/{programme}/questions', [PlanController::class, 'saveQuestions'])
            ->can('manage', 'programme');
        Route::get('programmes/{programme}/ready', [PlanController::class, 'ready'])->can('manage', 'programme');
        Route::get('programmes/{programme}/designs.json', [PlanController::class, 'designs'])->can('view', 'programme');
        Route::get('programmes/{programme}/things', [CatalogueController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/shelves', [CatalogueController::class, 'shelf'])
            ->can('manage', 'programme');
        Route::patch('programmes/{programme}/shelves/{shelf}', [CatalogueController::class, 'rename'])
            ->can('manage', 'programme');
        Route::delete('programmes/{programme}/shelves/{shelf}', [CatalogueController::class, 'takeDown'])
            ->can('manage', 'programme');
        // Each thing of a tidy-up is looked at on its own (App\Programmes\TidyUpRun).
        Route::post('things', [CatalogueController::class, 'tidy']);
        Route::get('bin', [CatalogueController::class, 'bin']);
        Route::get('search', [CatalogueController::class, 'search']);
        Route::get('programmes/{programme}/outings', [OutingController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/outings', [OutingController::class, 'store'])->can('manage', 'programme');
        Route::put('outings/{outing}', [OutingController::class, 'update'])->can('manage', 'outing');
        Route::delete('outings/{outing}', [OutingController::class, 'destroy'])->can('manage', 'outing');
        Route::get('programmes/{programme}/lists', [ListController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/lists', [ListController::class, 'store'])->can('manage', 'programme');
        Route::get('lists/{list}', [ListController::class, 'show'])->can('view', 'list');
        Route::post('lists/{list}/review', [ListController::class, 'review'])->can('manage', 'list');
        Route::put('lists/{list}', [ListController::class, 'update'])->can('manage', 'list');
        Route::delete('lists/{list}', [ListController::class, 'destroy'])->can('manage', 'list');
        Route::get('programmes/{programme}/designs.xlsx', [PlanController::class, 'sheet'])->can('view', 'programme');
        Route::post('designs/read', [PlanController::class, 'readSheet']);
        Route::get('starters', [PlanController::class, 'starters']);
        Route::get('formulas/functions', [FormulaController::class, 'functions']);
        Route::post('designs/check', [LayerController::class, 'check']);
        Route::get('programmes/{programme}/layers', [LayerController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/layers', [LayerController::class, 'store'])->can('manage', 'programme');
        Route::get('layers/{layer}', [LayerController::class, 'show'])->can('view', 'layer');
        Route::post('layers/{layer}/design/review', [LayerController::class, 'review'])->can('design', 'layer');
        Route::put('layers/{layer}/design', [LayerController::class, 'update'])->can('design', 'layer');
        Route::post('layers/{layer}/fills/preview', [FillController::class, 'preview'])->can('design', 'layer');
        Route::post('layers/{layer}/fills', [FillController::class, 'store'])->can('design', 'layer');
        Route::get('layers/{layer}/fills/{fill}', [FillController::class, 'show'])->can('design', 'layer');
        Route::delete('layers/{layer}/fills/{fill}', [FillController::class, 'destroy'])->can('design', 'layer');
        Route::post('layers/{layer}/formulas/try', [FormulaController::class, 'try'])->can('design', 'layer');
        Route::get('layers/{layer}/records', [RecordController::class, 'index'])->can('view', 'layer');
        Route::get('layers/{layer}/records.geojson', [RecordController::class, 'geoJson'])->can('view', 'layer');
        Route::get('layers/{layer}/records/{record}', [RecordController::class, 'show'])->can('view', 'layer');
        Route::post('layers/{layer}/records', [RecordController::class, 'store'])->can('view', 'layer');
        Route::patch('layers/{layer}/records/{record}', [RecordController::class, 'update'])->can('view', 'layer');
        Route::delete('layers/{layer}/records/{record}', [RecordController::class, 'destroy'])->can('view', 'layer');
        Route::post('layers/{layer}/records/{record}/restore', [RecordController::class, 'restore'])
            ->can('view', 'layer');
        Route::get('layers/{layer}/records/{record}/history', [RecordController::class, 'history'])
            ->can('view', 'layer');
        Route::get('layers/{layer}/records/{record}/visits', [RecordController::class, 'visits'])->can('view', 'layer');
        Route::post('places/read', PlaceController::class);
        Route::get('layers/{layer}/slices', [SliceController::class, 'index'])->can('view', 'layer');
        Route::post('layers/{layer}/slices', [SliceController::class, 'store'])->can('design', 'layer');
        Route::post('layers/{layer}/slices/try', [SliceController::class, 'try'])->can('view', 'layer');
        Route::post('layers/{layer}/classes', ClassesController::class)->can('view', 'layer');
        Route::get('layers/{layer}/together', [ClassesController::class, 'together'])->can('view', 'layer');
        Route::get('layers/{layer}/askable', [SliceController::class, 'askable'])->can('view', 'layer');
        Route::put('layers/{layer}/slices/{slice}', [SliceController::class, 'update'])->can('design', 'layer');
        Route::delete('layers/{layer}/slices/{slice}', [SliceController::class, 'destroy'])->can('design', 'layer');
        Route::post('layers/{layer}/records/{record}/files', [RecordController::class, 'files'])->can('view', 'layer');
        Route::delete('attachments/{attachment}', [AttachmentController::class, 'destroy'])
            ->can('change', 'attachment');
        Route::post('attachments/{attachment}/restore', [AttachmentController::class, 'restore'])
            ->can('change', 'attachment');
        Route::get('attachments/{attachment}/{size}', [AttachmentController::class, 'show'])->can('view', 'attachment')
            ->whereIn('size', ['original', 'thumb', 'view']);

        Route::get('programmes/{programme}/imports', [ImportController::class, 'index'])->can('manage', 'programme');
        Route::post('programmes/{programme}/imports', [ImportController::class, 'store'])->can('manage', 'programme');
        Route::get('programmes/{programme}/marks', [MarkController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/marks', [MarkController::class, 'store'])->can('make', 'programme');
        Route::post('programmes/{programme}/trails', [TrailController::class, 'store'])->can('goOut', 'programme');
        Route::get('programmes/{programme}/trails.geojson', [TrailController::class, 'index'])
            ->can('manage', 'programme');
        Route::get('programmes/{programme}/asked', [RecordQuestionController::class, 'index'])
            ->can('manage', 'programme');
        Route::get('layers/{layer}/records/{record}/asked', [RecordQuestionController::class, 'show'])
            ->can('view', 'layer');
        Route::post('layers/{layer}/records/{record}/asked', [RecordQuestionController::class, 'store'])
            ->can('design', 'layer');
        Route::post('layers/{layer}/accepted', [AcceptanceController::class, 'store'])->can('design', 'layer');
        Route::get('layers/{layer}/flags', [FlagController::class, 'show'])->can('design', 'layer');
        Route::put('layers/{layer}/flags', [FlagController::class, 'update'])->can('design', 'layer');
        Route::delete('asked/{asked}', [RecordQuestionController::class, 'close'])->can('manage', 'asked');
        Route::get('programmes/{programme}/disputes', [ConflictController::class, 'index'])->can('manage', 'programme');
        Route::post('disputes/{dispute}', [ConflictController::class, 'settle'])->can('manage', 'dispute');
        Route::get('imports/{import}', [ImportController::class, 'show'])->can('manage', 'import');
        Route::patch('imports/{import}/files/{file}', [ImportController::class, 'bytes'])->can('manage', 'import');
        Route::put('imports/{import}/settings', [ImportController::class, 'settings'])->can('manage', 'import');
        Route::post('imports/{import}/into/{layer}', [ImportController::class, 'into'])->can('manage', 'import');
        Route::get('imports/{import}/systems', [ImportController::class, 'systems'])->can('manage', 'import');
        Route::post('imports/{import}/land', [ImportController::class, 'land'])->can('manage', 'import');
        Route::post('imports/{import}/cancel', [ImportController::class, 'cancel'])->can('manage', 'import');
        Route::post('imports/{import}/undo', [ImportController::class, 'undo'])->can('manage', 'import');
        Route::get('imports/{import}/waiting', [RejectedRowController::class, 'waiting'])->can('manage', 'import');
        Route::get('imports/{import}/waiting.csv', [RejectedRowController::class, 'waitingCsv'])
            ->can('manage', 'import');
        Route::patch('imports/{import}/waiting/{row}', [RejectedRowController::class, 'mend'])->can('manage', 'import');
        Route::post('imports/{import}/retry', [RejectedRowController::class, 'retry'])->can('manage', 'import');
        Route::get('imports/{import}/photos/{row}', [ImportController::class, 'photo'])->can('manage', 'import');
        Route::get('programmes/{programme}/places', [GazetteerController::class, 'find'])->can('view', 'programme');
        Route::post('programmes/{programme}/places', [GazetteerController::class, 'take'])->can('manage', 'programme');
        Route::get('layers/{layer}/formats', [ExportController::class, 'formats'])->can('view', 'layer');
        Route::post('layers/{layer}/exports', [ExportController::class, 'store'])->can('view', 'layer');
        Route::get('exports/{export}', [ExportController::class, 'show'])->can('view', 'export');
        Route::get('exports/{export}/file', [ExportController::class, 'file'])->can('view', 'export');
        Route::delete('exports/{export}', [ExportController::class, 'destroy'])->can('view', 'export');

        Route::get('backdrops', BackdropController::class);
        Route::get('packs', PackController::class);
        Route::get('programmes/{programme}/packs/counts', [PackController::class, 'counts'])->can('view', 'programme');
        Route::get('programmes/{programme}/packs/places', [PackController::class, 'places'])->can('view', 'programme');
        Route::post('sync', SyncController::class);
        Route::options('uploads', [UploadController::class, 'options']);
        Route::post('uploads', [UploadController::class, 'store']);
        // Before GET would catch it: Laravel answers HEAD through GET routes only.
        Route::match(['HEAD'], 'uploads/{upload}', [UploadController::class, 'head'])->can('use', 'upload');
        Route::patch('uploads/{upload}', [UploadController::class, 'update'])->can('use', 'upload');
        Route::delete('uploads/{upload}', [UploadController::class, 'destroy'])->can('use', 'upload');

        Route::get('programmes/{programme}/gate', [GateController::class, 'show'])->can('manage', 'programme');
        Route::patch('programmes/{programme}/gate', [GateController::class, 'update'])->can('manage', 'programme');
        Route::get('programmes/{programme}/maps', [MapController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/maps', [MapController::class, 'store'])->can('make', 'programme');
        Route::get('maps/{map}', [MapController::class, 'show'])->can('view', 'map');
        Route::patch('maps/{map}', [MapController::class, 'update'])->can('manage', 'map');
        Route::get('maps/{map}/view', [MapController::class, 'view'])->can('view', 'map');
        Route::get('maps/{map}/picture.png', [MapController::class, 'picture'])->can('view', 'map');
        Route::get('maps/{map}/layers/{part}/features.geojson', [MapController::class, 'features'])->can('view', 'map');
        Route::get('maps/{map}/layers/{part}/records/{record}', [MapController::class, 'card'])->can('view', 'map');
        Route::get('maps/{map}/wall', [MapController::class, 'wall'])->can('view', 'map');
        Route::get('maps/{map}/table', [MapController::class, 'table'])->can('view', 'map');
        Route::get('maps/{map}/reach', [MapController::class, 'reach'])->can('manage', 'map');
        Route::get('maps/{map}/advice', [MapController::class, 'advice'])->can('manage', 'map');
        Route::get('maps/{map}/addable', [MapController::class, 'addable'])->can('manage', 'map');

        Route::get('programmes/{programme}/boards', [BoardController::class, 'index'])->can('view', 'programme');
        Route::post('programmes/{programme}/boards', [BoardController::class, 'store'])->can('make', 'programme');
        Route::get('boards/{board}', [BoardController::class, 'show'])->can('view', 'board');
        Route::patch('boards/{board}', [BoardController::class, 'update'])->can('manage', 'board');
        Route::get('boards/{board}/reach', [BoardController::class, 'reach'])->can('manage', 'board');
        // Asks for the right with the very query that reads the board.
        Route::get('boards/{board}/answers', [BoardController::class, 'answers']);
        Route::get('boards/{board}/tiles/{tile}/layers/{part}/features.geojson', [BoardController::class, 'features']);
        Route::get('boards/{board}/tiles/{tile}/layers/{part}/records/{record}', [BoardController::class, 'card']);
        Route::get('layers/{layer}/measurable', [BoardController::class, 'measurable'])->can('view', 'layer');
        Route::get('programmes/{programme}/shown-to', [AudienceController::class, 'toShow'])->can('make', 'programme');
        Route::put('programmes/{programme}/work-seen/{audience}', [AudienceController::class, 'work'])
            ->can('manage', 'programme');
        Route::get('programmes/{programme}/audiences', [AudienceController::class, 'index'])
            ->can('manage', 'programme');
        Route::put('layers/{layer}/seen-by/{audience}', [AudienceController::class, 'say'])->can('design', 'layer');
        Route::get('layers/{layer}/blurred', [AudienceController::class, 'blurred'])->can('design', 'layer');
        Route::get('programmes/{programme}/alerts', [AlertController::class, 'index'])->can('manage', 'programme');
        Route::post('programmes/{programme}/alerts', [AlertController::class, 'store'])->can('manage', 'programme');
        Route::post('programmes/{programme}/alerts/try', [AlertController::class, 'try'])->can('manage', 'programme');
        Route::put('alerts/{alert}', [AlertController::class, 'update'])->can('manage', 'alert');
        Route::patch('alerts/{alert}', [AlertController::class, 'pause'])->can('manage', 'alert');
        Route::delete('alerts/{alert}', [AlertController::class, 'destroy'])->can('manage', 'alert');
        Route::get('notices', [NoticeController::class, 'index']);
        Route::post('notices/read', [NoticeController::class, 'read']);
        Route::get('programmes/{programme}/proposals', [BoardController::class, 'proposals'])->can('view', 'programme');
    });
});
