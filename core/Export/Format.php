<?php

declare(strict_types=1);

namespace PinYard\Export;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;

/** A format in which records go out, and what it cannot carry. */
enum Format: string
{
    case Csv = 'csv';
    case Xlsx = 'xlsx';
    case GeoJson = 'geojson';
    case GeoPackage = 'gpkg';
    case Shapefile = 'shp';
    case Kml = 'kml';
    case Gpx = 'gpx';
    case FlatGeobuf = 'fgb';
    case Photos = 'photos';

    /** Of GDAL; null for what is written here. */
    public function driver(): ?string
    {
        return match ($this) {
            self::GeoPackage => 'GPKG',
            self::Shapefile => 'ESRI Shapefile',
            self::Kml => 'LIBKML',
            self::Gpx => 'GPX',
            self::FlatGeobuf => 'FlatGeobuf',
            default => null,
        };
    }

    public function extension(): string
    {
        return match ($this) {
            self::Shapefile, self::Photos => 'zip',
            default => $this->value,
        };
    }

    public function mediaType(): string
    {
        return match ($this) {
            self::Csv => 'text/csv; charset=utf-8',
            self::Xlsx => 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
            self::GeoJson => 'application/geo+json',
            self::GeoPackage => 'application/geopackage+sqlite3',
            self::Kml => 'application/vnd.google-earth.kml+xml',
            self::Gpx => 'application/gpx+xml',
            self::FlatGeobuf => 'application/octet-stream',
            self::Shapefile, self::Photos => 'application/zip',
        };
    }

    public function fits(LayerDesign $design): bool
    {
        return $this !== self::Gpx || $design->geometry !== GeometryKind::Area;
    }

    /** @return list<string> what is lost, as codes of sentences (`export.loss.<code>`) */
    public function losses(LayerDesign $design): array
    {
        $has = static fn (FieldKind ...$kinds): bool => array_filter(
            $design->valueFields(),
            static fn (Field $f): bool => in_array($f->valueKind(), $kinds, true),
        ) !== [];
        $losses = [];
        if ($this === self::Shapefile) {
            $losses[] = 'names';
            if ($has(FieldKind::LongText)) {
                $losses[] = 'long_texts';
            }
            if ($has(FieldKind::DateTime, FieldKind::Time)) {
                $losses[] = 'times_as_text';
            }
            if ($has(FieldKind::YesNo)) {
                $losses[] = 'yes_no_as_number';
            }
        }
        if ($this === self::Kml || $this === self::Gpx) {
            $losses[] = 'all_as_text';
        }
        if ($this === self::Csv) {
            $losses[] = 'no_kinds';
        }
        if ($this === self::Xlsx && $design->geometry !== GeometryKind::Point) {
            $losses[] = 'long_shapes';
        }
        if (
            $this !== self::GeoPackage &&
            $this !== self::Xlsx &&
            $this !== self::Photos &&
            $has(FieldKind::OneChoice, FieldKind::SeveralChoices)
        ) {
            $losses[] = 'no_choice_list';
        }
        if ($this !== self::Photos) {
            $losses[] = $this === self::GeoPackage ? 'photos_listed' : 'no_photos';
        }

        return $losses;
    }
}
