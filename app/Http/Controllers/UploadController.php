<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Files\FileArrival;
use App\Http\Problems;
use App\Models\Attachment;
use App\Models\Layer;
use App\Models\Upload;
use App\People\SignedIn;
use App\Programmes\Usage;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Str;
use OpenApi\Attributes as OA;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;
use Symfony\Component\HttpFoundation\Response as HttpResponse;

/** Photos come in by the tus protocol 1.0.0: core, creation, checksum, termination, expiration. */
final class UploadController
{
    private const KEEP_DAYS = 7;

    /** The largest file that any slot may take. */
    private const MOST_BYTES = 524_288_000;

    /** Bytes read from the wire at a time. */
    private const PIECE = 65_536;

    #[
        OA\Options(
            path: '/api/v1/uploads',
            summary: 'What this tus server can',
            tags: ['Attachments'],
            responses: [new OA\Response(response: 204, description: 'In the headers')],
        ),
    ]
    public function options(): Response
    {
        return $this->tus(204, [
            'Tus-Version' => '1.0.0',
            'Tus-Extension' => 'creation,checksum,termination,expiration',
            'Tus-Max-Size' => (string) self::MOST_BYTES,
            'Tus-Checksum-Algorithm' => 'sha1,sha256',
        ]);
    }

    #[
        OA\Post(
            path: '/api/v1/uploads',
            summary: 'Begin the upload of a photo that an operation announced',
            tags: ['Attachments'],
            parameters: [
                new OA\Parameter(
                    name: 'Upload-Length',
                    in: 'header',
                    required: true,
                    schema: new OA\Schema(type: 'integer'),
                ),
                new OA\Parameter(
                    name: 'Upload-Metadata',
                    in: 'header',
                    required: true,
                    description: '`attachment`, with the photo\'s id in base64',
                    schema: new OA\Schema(type: 'string'),
                ),
            ],
            responses: [
                new OA\Response(response: 201, description: 'Where to send the bytes'),
                new OA\Response(response: 410, description: 'The photo is already here'),
            ],
        ),
    ]
    public function store(Request $request): HttpResponse
    {
        $photo = $this->announced($request);
        if ($photo === null) {
            return Problems::stop(404, new Problem('photo_unknown', 'photos'));
        }
        if ($photo->state !== 'on_way') {
            return $this->tus(410, ['Photo-State' => $photo->state]);
        }
        $length = $request->header('Upload-Length');
        if (! is_string($length) || ! ctype_digit($length) || (int) $length !== $photo->bytes) {
            $tooLarge = is_string($length) && ctype_digit($length) && (int) $length > self::MOST_BYTES;

            return Problems::stop(
                $tooLarge ? 413 : 422,
                new Problem('photo_length', 'photos', $length, ['name' => $photo->name, 'bytes' => $photo->bytes]),
            );
        }
        try {
            $layer = Layer::withTrashed()->with('programme')->find($photo->layer_id);
            Usage::allow($layer->programme ?? abort(404), $photo->bytes);
        } catch (Refused $e) {
            // Not the photo's fault: it waits on the phone until there is room (RFC 4918, section 11.5).
            return Problems::stop(507, $e->problems[0]);
        }
        $upload = Upload::query()->create([
            'id' => (string) Str::uuid7(),
            'attachment_id' => $photo->id,
            'user_id' => SignedIn::of($request)->id,
            'length' => $photo->bytes,
            'expires_at' => now()->addDays(self::KEEP_DAYS),
        ]);
        if (! is_dir(dirname($upload->file()))) {
            mkdir(dirname($upload->file()), 0o700, true);
        }
        touch($upload->file());

        return $this->tus(201, [
            'Location' => "/api/v1/uploads/{$upload->id}",
            'Upload-Expires' => $upload->expires_at->toRfc7231String(),
        ]);
    }

    #[
        OA\Head(
            path: '/api/v1/uploads/{upload}',
            summary: 'How many bytes have arrived',
            tags: ['Attachments'],
            responses: [new OA\Response(response: 200, description: 'In the header Upload-Offset')],
        ),
    ]
    public function head(Upload $upload): Response
    {
        $length = $upload->length;
        if ($upload->offset() === $length) {
            // All bytes came, but the process died before it could decide over them. A client that hears of a whole
            // upload takes the photo for arrived, so it must be, before this is answered.
            $this->finish($upload);

            return $this->tus(200, [
                'Upload-Offset' => (string) $length,
                'Upload-Length' => (string) $length,
                'Cache-Control' => 'no-store',
            ]);
        }

        return $this->tus(200, [
            'Upload-Offset' => (string) $upload->offset(),
            'Upload-Length' => (string) $upload->length,
            'Cache-Control' => 'no-store',
        ]);
    }

    #[
        OA\Patch(
            path: '/api/v1/uploads/{upload}',
            summary: 'Send bytes, from where the upload stands',
            tags: ['Attachments'],
            parameters: [
                new OA\Parameter(
                    name: 'Upload-Offset',
                    in: 'header',
                    required: true,
                    schema: new OA\Schema(type: 'integer'),
                ),
            ],
            requestBody: new OA\RequestBody(
                content: new OA\MediaType(
                    mediaType: 'application/offset+octet-stream',
                    schema: new OA\Schema(type: 'string', format: 'binary'),
                ),
            ),
            responses: [
                new OA\Response(response: 204, description: 'Taken'),
                new OA\Response(response: 409, description: 'The offset is not where the upload stands'),
                new OA\Response(response: 460, description: 'The checksum differs'),
            ],
        ),
    ]
    public function update(Request $request, Upload $upload): HttpResponse
    {
        if ($request->header('Content-Type') !== 'application/offset+octet-stream') {
            return $this->tus(415);
        }
        $file = fopen($upload->file(), 'cb') ?: throw new \RuntimeException('the upload has no file');
        // Two requests for one upload: the second waits no longer than the first lives, then finds its offset taken.
        if (! flock($file, LOCK_EX | LOCK_NB)) {
            return $this->tus(423);
        }
        $offset = $upload->offset();
        if ($request->header('Upload-Offset') !== (string) $offset) {
            return $this->tus(409, ['Upload-Offset' => (string) $offset]);
        }
        $status = $this->append($request, $file, $offset, $upload->length);
        fclose($file);
        if ($status !== 204) {
            return $this->tus($status);
        }
        $offset = $upload->offset();
        if ($offset === $upload->length) {
            $this->finish($upload);
        }

        return $this->tus(204, [
            'Upload-Offset' => (string) $offset,
            'Upload-Expires' => $upload->expires_at->toRfc7231String(),
        ]);
    }

    #[
        OA\Delete(
            path: '/api/v1/uploads/{upload}',
            summary: 'Give an upload up',
            tags: ['Attachments'],
            responses: [new OA\Response(response: 204, description: 'Gone')],
        ),
    ]
    public function destroy(Upload $upload): Response
    {
        FileArrival::forget($upload);

        return $this->tus(204);
    }

    private function finish(Upload $upload): void
    {
        $photo = Attachment::query()->find($upload->attachment_id) ?? throw Refused::because('photo_unknown', 'photos');
        FileArrival::finish($upload, $photo);
    }

    /**
     * Writes what arrives as it arrives, so that a request that is cut keeps what it had.
     *
     * @param  resource  $file
     * @return int 204, 413 (more bytes than announced), 400 or 460 (checksum of an unknown kind, or wrong)
     */
    private function append(Request $request, $file, int $offset, int $length): int
    {
        $checksum = null;
        if (is_string($request->header('Upload-Checksum'))) {
            [$algorithm, $expected] = explode(' ', $request->header('Upload-Checksum').' ', 3);
            if (! in_array($algorithm, ['sha1', 'sha256'], true)) {
                return 400;
            }
            $checksum = [hash_init($algorithm), base64_decode($expected)];
        }
        ignore_user_abort(true);
        fseek($file, $offset);
        $in = $request->getContent(true);
        $written = $offset;
        while (! feof($in)) {
            $piece = fread($in, self::PIECE);
            if ($piece === false || $piece === '') {
                break;
            }
            $written += strlen($piece);
            if ($written > $length) {
                ftruncate($file, max(0, $offset));

                return 413;
            }
            fwrite($file, $piece);
            if ($checksum !== null) {
                hash_update($checksum[0], $piece);
            }
        }
        fflush($file);
        if ($checksum !== null && ! hash_equals($checksum[1], hash_final($checksum[0], true))) {
            ftruncate($file, max(0, $offset));

            return 460;
        }

        return 204;
    }

    /** The photo named in the metadata, if this person announced it. */
    private function announced(Request $request): ?Attachment
    {
        preg_match('/(?:^|,)\s*attachment ([A-Za-z0-9+\/=]+)/', (string) $request->header('Upload-Metadata'), $m);
        try {
            $id = RecordId::of(base64_decode($m[1] ?? ''));
        } catch (Refused) {
            return null;
        }

        return Attachment::query()->whereKey($id->bytes())->where('created_by', SignedIn::of($request)->id)->first();
    }

    /** @param  array<string, string>  $headers */
    private function tus(int $status, array $headers = []): Response
    {
        return new Response('', $status, ['Tus-Resumable' => '1.0.0'] + $headers);
    }
}
