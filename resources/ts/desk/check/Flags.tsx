import Box from '@mui/material/Box'
import Link from '@mui/material/Link'
import { Pill } from '../../shared/parts/Pill'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'

type Flag = Api['Flag']

/** In a line of the list: the first, and how many more there are. */
export function FlagPills({ flags }: { flags: Flag[] }) {
  const kinds = [...new Set(flags.map((f) => f.kind))]
  const first = kinds[0]
  if (first === undefined) return null
  return (
    <Box
      component="span"
      title={flags.map((f) => f.text).join('\n')}
      sx={{ display: 'flex', gap: 1, alignItems: 'center', height: '100%', lineHeight: 1.5 }}>
      <Pill tone="soft">{t(`flag.${first}`)}</Pill>
      {kinds.length > 1 && <Pill tone="soft">+{kinds.length - 1}</Pill>}
    </Box>
  )
}

/** All that speaks against a record, each with its reason. */
export function FlagList({ flags, onLook }: { flags: Flag[]; onLook: (record: string) => void }) {
  return (
    <Box
      component="ul"
      aria-label={t('flag.title')}
      sx={{ listStyle: 'none', m: 0, p: 0, display: 'grid', gap: 1.5 }}>
      {flags.map((flag, i) => (
        <li key={i}>
          <Pill tone="soft">{t(`flag.${flag.kind}`)}</Pill> {flag.text}
          {flag.other !== null && (
            <>
              {' '}
              <Link component="button" type="button" onClick={() => onLook(flag.other ?? '')}>
                {t('flag.look')}
              </Link>
            </>
          )}
        </li>
      ))}
    </Box>
  )
}
