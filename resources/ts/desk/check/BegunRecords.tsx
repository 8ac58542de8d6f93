import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import { useSyncExternalStore } from 'react'
import { Sheet } from '../../shared/parts/Sheet'
import { formatInstant, t } from '../../shared/texts'
import { drop, keptChanges, listKept } from '../unsaved/kept'
import { draftsUnder, pickedFiles, type RecordDraft } from './recordDrafts'

type Props = {
  under: number
  title: string
  zone: string
  onGoOn: (draft: RecordDraft) => void
}

/** Records that this person began here and did not save: nothing typed goes without a word. */
export function BegunRecords({ under, title, zone, onGoOn }: Props) {
  useSyncExternalStore(keptChanges.subscribe, keptChanges.count)
  const drafts = listKept<RecordDraft>(draftsUnder(under))
  if (drafts.length === 0) return null
  const called = ({ record, visited }: RecordDraft) =>
    record
      ? t('draft.of.change', { name: record.name ?? t('record.unnamed') })
      : visited
        ? t('draft.of.visit', { name: visited.name ?? t('record.unnamed') })
        : t('draft.of.new', { layer: title })
  return (
    <Sheet sx={{ py: 2.5, display: 'grid', gap: 2 }}>
      <b>{t('draft.unfinished')}</b>
      {drafts.map(({ thing, at, value }) => (
        <Box key={thing} sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
          <Box sx={{ flex: 1, minWidth: 180 }}>
            {called(value)} · {formatInstant(at, zone)}
          </Box>
          <Button size="small" onClick={() => onGoOn(value)}>
            {t('draft.goon')}
          </Button>
          <Button
            size="small"
            variant="outlined"
            onClick={() => {
              drop(thing)
              pickedFiles.delete(thing)
            }}>
            {t('draft.drop')}
          </Button>
        </Box>
      ))}
    </Sheet>
  )
}
