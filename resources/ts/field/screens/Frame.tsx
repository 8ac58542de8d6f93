import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import type { ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { Strip } from '../../shared/parts/Strip'
import { age, t } from '../../shared/texts'
import { useWaiting } from '../phoneState'
import { useSync } from '../sync/sync'

/** The strip that is never hidden, and the screen below it. */
export function Frame({ children, onSignIn }: { children: ReactNode; onSignIn?: (() => void) | undefined }) {
  const navigate = useNavigate()
  const sync = useSync()
  const box = useWaiting()
  const count = box?.waiting ?? 0
  const photos = box?.photos ?? 0
  const begun = box?.drafts ? ` · ${t('strip.begun', { n: box.drafts })}` : ''
  // Before the phone's store has been read nothing is claimed.
  const left = !box
    ? ' '
    : box.refused
      ? t('strip.refused', { n: box.refused })
      : count > 0
        ? t('strip.waiting', { n: count, age: age(box?.oldest ?? Date.now()) }) + begun
        : photos > 0
          ? t('strip.photos', { n: photos }) + begun
          : box.others > 0
            ? t('strip.others')
            : box.drafts > 0
              ? t('strip.drafts', { n: box.drafts })
              : box.asked > 0
                ? t('strip.asked', { n: box.asked })
                : box.notes > 0
                  ? t('strip.notes', { n: box.notes })
                  : box.notices > 0
                    ? t('strip.told', { n: box.notices })
                    : t('strip.allsent')
  const right = onSignIn
    ? t(sync.other ? 'strip.other' : 'strip.signin')
    : !sync.signal
      ? t('strip.nosignal')
      : sync.phase === 'sending' && (count > 0 || photos > 0)
        ? t('strip.sending')
        : sync.trouble
          ? t('strip.trouble')
          : t('strip.signal')
  const tone =
    box?.refused || onSignIn || (count > 0 && !sync.signal)
      ? 'warn'
      : count > 0 ||
          photos > 0 ||
          sync.trouble ||
          box?.notes ||
          box?.notices ||
          box?.asked ||
          box?.drafts ||
          box?.others
        ? 'busy'
        : 'well'
  return (
    <Box
      sx={{
        height: '100dvh',
        display: 'flex',
        flexDirection: 'column',
        maxWidth: 640,
        mx: 'auto',
        bgcolor: 'background.default',
      }}>
      <ButtonBase
        onClick={() => (onSignIn ? onSignIn() : void navigate('/field/outbox'))}
        sx={{ display: 'block', flex: 'none' }}>
        <Strip left={left} right={right} tone={tone} data-testid="strip" />
      </ButtonBase>
      <Box component="main" sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
        {children}
      </Box>
    </Box>
  )
}
