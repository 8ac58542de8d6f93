<?php

declare(strict_types=1);

namespace Tests;

use App\Models\Programme;
use App\Models\User;

/** Brings files in as the desk does: announced, sent in pieces, read, decided, landed. */
trait ImportSteps
{
    /**
     * @param  array<string, string>  $files  bytes by name
     * @return array<string, mixed> the import
     */
    public function bring(User $user, Programme $programme, array $files, array $with = []): array
    {
        $list = [];
        foreach ($files as $name => $bytes) {
            $list[] = ['name' => $name, 'bytes' => strlen($bytes)];
        }
        $import = $this->actingAs($user)
            ->postJson("/api/v1/programmes/{$programme->id}/imports", ['files' => $list] + $with)
            ->assertCreated()
            ->json();
        foreach (array_values($files) as $n => $bytes) {
            $this->call(
                'PATCH',
                "/api/v1/imports/{$import['id']}/files/$n",
                server: [
                    'HTTP_UPLOAD_OFFSET' => '0',
                    'HTTP_ACCEPT' => 'application/json',
                    'CONTENT_TYPE' => 'application/offset+octet-stream',
                ],
                content: $bytes,
            )->assertOk();
        }

        return $this->getJson("/api/v1/imports/{$import['id']}")
            ->assertOk()
            ->json();
    }

    /** @return array<string, mixed> the import with its review */
    public function decide(array $import, array $change = []): array
    {
        return $this->putJson("/api/v1/imports/{$import['id']}/settings", array_replace($import['settings'], $change))
            ->assertOk()
            ->json();
    }

    /** @return array<string, mixed> the import, landed */
    public function land(array $import): array
    {
        $this->postJson("/api/v1/imports/{$import['id']}/land")->assertStatus(202);

        return $this->getJson("/api/v1/imports/{$import['id']}")
            ->assertOk()
            ->json();
    }

    /** @return list<array<string, mixed>> */
    public function recordsOf(int $layer): array
    {
        return $this->getJson("/api/v1/layers/$layer/records")
            ->assertOk()
            ->json('records');
    }

    /** @param  array<string, string>  $files  bytes by name */
    public function zip(array $files): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'zip');
        $zip = new \ZipArchive;
        $zip->open($path, \ZipArchive::OVERWRITE);
        foreach ($files as $name => $bytes) {
            $zip->addFromString($name, $bytes);
        }
        $zip->close();
        $bytes = (string) file_get_contents($path);
        unlink($path);

        return $bytes;
    }
}
