<?php

declare(strict_types=1);

namespace App\Export;

use App\Models\Export;
use App\Models\Slice;
use App\Records\VisibleRecords;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use PinYard\Export\Format;
use PinYard\Record\RecordId;
use stdClass;

/** Writes the file of an export, record by record, in little memory. */
final class RunExport implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    private const REPORT_EVERY = 5_000;

    public int $timeout = 7_000;

    public int $tries = 1;

    public function __construct(private readonly int $export)
    {
        $this->onQueue('exports');
    }

    public function handle(): void
    {
        $export = Export::query()
            ->with(['layer.programme', 'user'])
            ->find($this->export);
        if ($export === null || $export->state !== 'working') {
            return;
        }
        File::ensureDirectoryExists(dirname($export->path()), 0o700);
        $work = $export->path().'-work';
        File::deleteDirectory($work);
        File::ensureDirectoryExists($work, 0o700);
        try {
            $format = Format::from((string) $export->settings['format']);
            $export->records = match ($format) {
                Format::Csv => (new TextExport)->csv($export, self::columns($export), self::rows($export)),
                Format::GeoJson => (new TextExport)->geoJson($export, self::columns($export), self::rows($export)),
                Format::Xlsx => WorkbookExport::write($export, self::columns($export), self::rows($export)),
                Format::Photos => PhotoExport::write($export, self::rows($export)),
                default => GdalExport::write($export, $format, $work, self::columns($export), self::rows($export)),
            };
            $export->fill(['state' => 'done', 'bytes' => (int) filesize($export->path())])->save();
        } catch (ExportStopped) {
            // An answer that was not read to its end still holds the connection.
            DB::disconnect();
            @unlink($export->path());
            $export->update(['state' => 'cancelled']);
        } catch (\Throwable $e) {
            DB::disconnect();
            @unlink($export->path());
            $export->update(['state' => 'failed']);
            throw $e;
        } finally {
            File::deleteDirectory($work);
        }
    }

    public static function columns(Export $export): ExportColumns
    {
        $authors = DB::table('users')
            ->whereIn('id', DB::table('members')->where('programme_id', $export->layer->programme_id)->pluck('user_id'))
            ->pluck('name', 'id')
            ->all();
        $zone =
            ($export->settings['times'] ?? 'utc') === 'local'
                ? new \DateTimeZone($export->layer->programme->time_zone)
                : null;
        $choices = $export->settings['choices'] ?? 'labels';

        return ExportColumns::of(
            $export->layer,
            $authors,
            in_array($choices, ['codes', 'labels', 'both'], true) ? $choices : 'labels',
            $zone,
        );
    }

    /**
     * The records that its maker may see, narrowed as asked, one at a time.
     *
     * @param  string|null  $select  an expression, called `line`, where not whole rows are wanted
     * @return \Generator<stdClass>
     */
    public static function rows(Export $export, ?string $select = null): \Generator
    {
        $layer = $export->layer;
        $visible = VisibleRecords::for($export->user, $layer);
        $slice = is_int($export->settings['slice'] ?? null)
            ? Slice::query()->where('layer_id', $layer->id)->find($export->settings['slice'])
            : null;
        $design = $layer->design();
        if ($slice !== null) {
            $visible = $visible->filtered($layer->filter($slice->filter));
        }
        if (is_array($export->settings['filter'] ?? null)) {
            $visible = $visible->asked($layer->filter($export->settings['filter']));
        }
        $query = $visible->rows();
        $ids = $export->settings['ids'] ?? null;
        if (is_array($ids)) {
            $query->whereIn('id', array_map(static fn (mixed $id): string => RecordId::of($id)->bytes(), $ids));
        }
        if ($select !== null) {
            $query->selectRaw("$select as line");
        }
        // A connection of its own, whose answers come as they are read; one that holds them all would fill the memory.
        $pdo = DB::connection()->getPdo();
        $pdo->setAttribute(\PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, false);
        try {
            $statement = $pdo->prepare($query->orderBy('id')->toSql());
            $statement->execute(
                array_map(
                    static fn (mixed $v): mixed => $v instanceof \DateTimeInterface ? $v->format('Y-m-d H:i:s') : $v,
                    $query->getBindings(),
                ),
            );
            $count = 0;
            while (($row = $statement->fetch(\PDO::FETCH_OBJ)) !== false) {
                yield $row;
                $count++;
            }
            $statement->closeCursor();
        } finally {
            $pdo->setAttribute(\PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, true);
        }
    }

    /** Told every few thousand records: kept in files, for the connection is busy. @throws ExportStopped */
    public static function report(Export $export, int $records): void
    {
        if ($records % self::REPORT_EVERY === 0) {
            file_put_contents($export->path().'.progress', (string) $records);
            if (is_file($export->path().'.stop')) {
                throw new ExportStopped;
            }
        }
    }

    public static function progress(Export $export): int
    {
        return (int) @file_get_contents($export->path().'.progress');
    }
}
