<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * Reads who may do what with a layer: crews as a whole, single crews, the public.
 *
 * @internal
 */
final readonly class RightsReader
{
    private const MOST_CREWS = 200;

    public function __construct(private DocumentReader $in)
    {
    }

    /** @param  array<mixed>  $d */
    public function crew(array $d): CrewRights
    {
        $rights = $this->in->part($d, 'rights', '', ['crew', 'crews', 'public']);
        $crew = $rights === null ? null : $rights['crew'] ?? [];
        if ($rights !== null && ! is_array($crew)) {
            $this->in->off('must_be_object', '/rights/crew', $crew);
        }
        if (! is_array($crew)) {
            return new CrewRights;
        }
        $this->in->noOthers($crew, ['add', 'see', 'change', 'delete'], '/rights/crew');

        return $this->one($crew, '/rights/crew');
    }

    /**
     * @param  array<mixed>  $d
     * @return array<array-key, CrewRights> by the crew's name
     */
    public function crews(array $d): array
    {
        $rights = is_array($d['rights'] ?? null) ? $d['rights'] : [];
        $crews = [];
        foreach ($this->in->list($rights, 'crews', self::MOST_CREWS, '/rights') as $i => $one) {
            $at = "/rights/crews/$i";
            if (! is_array($one)) {
                $this->in->off('must_be_object', $at, $one);

                continue;
            }
            $this->in->noOthers($one, ['crew', 'add', 'see', 'change', 'delete'], $at);
            $name = $this->in->text($one, 'crew', $at, 1, 80);
            if (isset($crews[$name])) {
                $this->in->off('crew_doubled', "$at/crew", $name, ['crew' => $name]);
            }
            $crews[$name] = $this->one($one, $at);
        }

        return $crews;
    }

    /** @param  array<mixed>  $d */
    public function publicSees(array $d): bool
    {
        $rights = is_array($d['rights'] ?? null) ? $d['rights'] : [];
        $public = $this->in->part($rights, 'public', '/rights', ['see']);

        return $public === null || $this->in->flag($public, 'see', '/rights/public', true);
    }

    /** @param  array<mixed>  $in */
    private function one(array $in, string $at): CrewRights
    {
        $whose = [];
        foreach (['change' => 'own', 'delete' => 'none'] as $right => $default) {
            $whose[$right] = $in[$right] ?? $default;
            if (! in_array($whose[$right], ['all', 'own', 'none'], true)) {
                $this->in->off('whose_unknown', "$at/$right", is_scalar($whose[$right]) ? $whose[$right] : null);
                $whose[$right] = $default;
            }
        }
        $see = $in['see'] ?? 'all';
        if ($see !== 'all' && $see !== 'own') {
            $this->in->off('see_unknown', "$at/see", is_scalar($see) ? $see : null);
        }

        return new CrewRights(
            $this->in->flag($in, 'add', $at, true),
            $see !== 'own',
            $whose['change'],
            $whose['delete'],
        );
    }
}
