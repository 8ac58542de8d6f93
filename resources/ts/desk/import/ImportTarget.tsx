import { useQuery } from '@tanstack/react-query'
import { useLastAnswer } from '../../shared/lateAnswers'
import { TextInput } from '../../shared/parts/Labelled'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { settingsInto } from '../queries/imports'
import { layersOf } from '../queries/layers'
import { Choose } from './Choose'
import { ID_KEY, type Import, type Settings } from './import'

/** Where rows go, and what becomes of those that are there already. */
export function ImportTarget({
  found,
  settings,
  onChange: change,
  onFailed,
}: {
  found: Import
  settings: Settings
  onChange: (part: Partial<Settings>) => void
  onFailed: (reason: unknown) => void
}) {
  const programme = useProgramme()
  const layers = useQuery(layersOf(programme.id))
  const columns = found.reading!.columns
  const tables = (found.source?.tables ?? []).filter((x) => x.rows > 0)
  const ask = useLastAnswer()
  const choose = async (value: string) => {
    const counts = ask()
    if (value === 'new') return change(asNewLayer(found, settings))
    try {
      const proposed = await settingsInto(found.id, value, {})
      if (counts()) change({ ...proposed, layer: Number(value) })
    } catch (e) {
      if (counts()) onFailed(e)
    }
  }
  return (
    <Sheet
      sx={{
        display: 'grid',
        gap: 3,
        gridTemplateColumns: { xs: 'minmax(0,1fr)', sm: 'repeat(auto-fit, minmax(240px, 1fr))' },
        alignItems: 'end',
      }}>
      <Choose
        label={t('bring.target')}
        value={settings.mode === 'new' ? 'new' : String(settings.layer)}
        onChange={(v) => void choose(v)}
        options={[
          ['new', t('bring.target.new')],
          ...(layers.data ?? [])
            .filter((l) => l.visits_of === null)
            .map((l): [string, string] => [String(l.id), t('bring.target.into', { layer: l.title })]),
        ]}
      />
      {settings.mode === 'new' ? (
        <TextInput label={t('bring.name')} value={settings.title} onChange={(title) => change({ title })} />
      ) : (
        <Choose
          label={t('bring.how')}
          value={settings.mode}
          onChange={(mode) =>
            change({
              mode: mode as Settings['mode'],
              key_column:
                mode === 'update' ? settings.columns.findIndex((c) => c.key === ID_KEY || c.take) : null,
            })
          }
          options={[
            ['append', t('bring.how.append')],
            ['update', t('bring.how.update')],
            ...(found.source?.kind === 'photos'
              ? [['attach', t('bring.how.attach')] as [string, string]]
              : []),
          ]}
        />
      )}
      {settings.mode === 'attach' && (
        <TextInput
          label={t('bring.within')}
          type="number"
          value={settings.within}
          onChange={(v) => change({ within: Number(v) || 1 })}
        />
      )}
      {settings.mode === 'update' && (
        <Choose
          label={t('bring.key')}
          value={String(settings.key_column ?? '')}
          onChange={(v) => change({ key_column: Number(v) })}
          options={settings.columns.flatMap((c, i): [string, string][] =>
            c.key === ID_KEY
              ? [[String(i), t('bring.key.id')]]
              : c.take
                ? [[String(i), columns[i]?.name ?? c.label]]
                : [],
          )}
        />
      )}
      {settings.mode === 'update' && (
        <Choose
          label={t('bring.empties')}
          value={settings.empties ?? 'leave'}
          onChange={(v) => change({ empties: v as Settings['empties'] })}
          options={[
            ['leave', t('bring.empties.leave')],
            ['clear', t('bring.empties.clear')],
          ]}
        />
      )}
      {settings.mode === 'update' && (
        <Choose
          label={t('bring.conflicts')}
          value={settings.conflicts ?? 'wait'}
          onChange={(v) => change({ conflicts: v as Settings['conflicts'] })}
          options={[
            ['wait', t('bring.conflicts.wait')],
            ['take', t('bring.conflicts.take')],
          ]}
        />
      )}
      {tables.length > 1 && (
        <Choose
          label={t('bring.sheet')}
          value={found.source?.table ?? ''}
          onChange={(table) => change({ table, head_row: 1 })}
          options={tables.map((x) => [x.name, x.name])}
        />
      )}
    </Sheet>
  )
}

/** What the file itself proposes; what was decided about a layer's fields means nothing in a new one. */
const asNewLayer = ({ settings: proposed, reading }: Import, { columns }: Settings): Partial<Settings> => ({
  mode: 'new',
  layer: null,
  key_column: null,
  title: proposed!.title,
  columns: columns.map((c, i) => ({
    ...c,
    key: proposed!.columns[i]?.key ?? c.key,
    kind: reading!.columns[i]?.kind ?? c.kind,
    take: true,
  })),
})
