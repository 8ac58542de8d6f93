import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { Link } from 'react-router'
import { BenchShowing } from '../../shared/parts/BenchShowing'
import { Problems } from '../../shared/parts/Problems'
import { Said } from '../../shared/parts/Said'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import { useProgramme } from '../ProgrammePage'
import { AreaFieldOffer } from './AreaFieldOffer'
import type { Import } from './import'
import { BringButton } from './ImportList'
import { ImportSource } from './ImportSource'
import { RejectedPlace } from './RejectedPlace'
import { RejectedRows } from './RejectedRows'
import { ResultCounts } from './ResultCounts'
import { useRejectedRows } from './useRejectedRows'

/**
 * What became of a file: how many rows landed, which wait and why; each can be mended here, on the map, or as
 * a file.
 */
export function ImportResult({ found, onChanged }: { found: Import; onChanged: (next: Import) => void }) {
  const programme = useProgramme()
  const [open, setOpen] = useState<number | null>(null)
  const { rows, unread, page, setPage, said, told, setTold, mend, retry, settle, undo } = useRejectedRows(
    found,
    onChanged,
  )
  const counts = found.counts ?? {}
  const undone = counts.undo
  const done = found.state === 'done'
  return (
    <BenchShowing
      benchWidth="minmax(0,2fr)"
      bench={
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: 'minmax(0,1fr)' }}>
          <Box
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              alignItems: 'end',
              gap: 3,
              flexWrap: 'wrap',
            }}>
            <Box>
              <Typography variant="body2" color="text.secondary">
                <Link to={`/desk/p/${programme.id}/build/bring`} style={{ color: 'inherit' }}>
                  {t('bring.title')}
                </Link>{' '}
                › {found.files[0]?.name}
              </Typography>
              <Typography variant="h1">
                {found.state === 'undone'
                  ? t('bring.undone')
                  : t('bring.done', { layer: found.layer_title ?? '' })}
              </Typography>
            </Box>
            <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
              {done && (
                <Button variant="outlined" onClick={() => void undo()}>
                  {t('bring.undo')}
                </Button>
              )}
              {done && <BringButton programme={programme.id} like={found.id} label={t('bring.again')} />}
              {done && found.layer !== null && (
                <Button component={Link} to={`/desk/p/${programme.id}/check?layer=${found.layer}`}>
                  {t('bring.see')}
                </Button>
              )}
            </Box>
          </Box>
          <ResultCounts counts={counts} />
          {told && (
            <Alert severity="success" variant="outlined" onClose={() => setTold(null)}>
              {told}
            </Alert>
          )}
          <Said lines={said} />
          <Problems error={unread} />
          {undone && (
            <Alert severity={undone.kept ? 'warning' : 'success'} variant="outlined">
              {t('bring.undid', { deleted: undone.deleted, restored: undone.restored })}{' '}
              {undone.kept > 0 && t('bring.kept', { n: undone.kept, names: undone.names.join(', ') })}{' '}
              {undone.layer_binned && t('bring.binned')}
            </Alert>
          )}
          {done && (counts.waiting ?? 0) === 0 && rows.length === 0 && page === 0 && (
            <Sheet>
              <Typography>{t('bring.allin')}</Typography>
            </Sheet>
          )}
          {(rows.length > 0 || page > 0) && (
            <RejectedRows
              found={found}
              rows={rows}
              open={open}
              page={page}
              onOpen={setOpen}
              onPage={setPage}
              onMend={mend}
              onRetry={(some, match) => void retry(some, match)}
            />
          )}
          {done && found.layer !== null && found.source?.wkt && found.reading?.geometry === 'area' && (
            <AreaFieldOffer programme={programme.id} title={found.layer_title ?? ''} />
          )}
          <ImportSource found={found} />
        </Box>
      }
      showing={
        <RejectedPlace
          row={rows.find((r) => r.row === open) ?? null}
          some={done && rows.length > 0}
          onSettle={(row, spot) => void settle(row, spot).then((isPlaced) => isPlaced && setOpen(null))}
        />
      }
    />
  )
}
