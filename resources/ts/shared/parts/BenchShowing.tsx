import Box from '@mui/material/Box'
import useMediaQuery from '@mui/material/useMediaQuery'
import { useState, type ReactNode } from 'react'
import { paint } from '../paint'
import { t } from '../texts'
import { Segments } from './Segments'

type Props = { bench: ReactNode; showing: ReactNode; benchWidth?: string; plain?: boolean }

/**
 * The two halves of every editing screen: the bench, where something is made, and the showing, the live
 * result.
 */
export function BenchShowing({ bench, showing, benchWidth = '1fr', plain = false }: Props) {
  const narrow = useMediaQuery('(max-width: 900px)')
  const [side, setSide] = useState<'bench' | 'showing'>('bench')
  const both = { bench: !narrow || side === 'bench', showing: !narrow || side === 'showing' }
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      {narrow && (
        <Box sx={{ p: 2, textAlign: 'center' }}>
          <Segments
            label={t('bench.flip')}
            value={side}
            onChange={setSide}
            options={[
              { value: 'bench', label: t('bench.bench') },
              { value: 'showing', label: t('bench.showing') },
            ]}
          />
        </Box>
      )}
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          display: 'grid',
          gridTemplateColumns: narrow ? '1fr' : `${benchWidth} ${benchWidth === '1fr' ? '470px' : '1fr'}`,
        }}>
        {both.bench && <Box sx={{ overflow: 'auto', p: { xs: 3, md: 5 }, minWidth: 0 }}>{bench}</Box>}
        {both.showing && (
          <Box
            sx={{
              overflow: 'auto',
              minWidth: 0,
              borderLeft: narrow ? 0 : `1px solid ${paint.line2}`,
              p: plain ? 0 : 4,
              position: 'relative',
              minHeight: narrow ? 480 : 0,
              ...(plain
                ? {}
                : {
                    bgcolor: paint.bench,
                    backgroundImage: `repeating-linear-gradient(0deg,transparent 0 43px,${paint.groove} 43px 44px)`,
                  }),
            }}>
            {showing}
          </Box>
        )}
      </Box>
    </Box>
  )
}
