import Box from '@mui/material/Box'
import ButtonBase from '@mui/material/ButtonBase'
import { Pill } from '../../../shared/parts/Pill'
import { t } from '../../../shared/texts'
import type { Audiences, Work } from '../../queries/audiences'
import { CELL, Nothing, Part } from './cells'
import { isCrew, titleOf } from './rule'

const WORK: readonly Work[] = ['trails', 'crews', 'outings']

export type WorkAt = { what: Work; audience: string }

type Props = { all: Audiences; open: WorkAt | null; onOpen: (at: WorkAt) => void }

/** Of people at work: which audiences are told of all of them. */
export function WorkRows({ all: data, open: work, onOpen }: Props) {
  return (
    <>
      <Part title={t('work.title')} columns={data.audiences.length + 1} />
      {WORK.map((what) => (
        <tr key={what}>
          <th scope="row">{t(`work.${what}`)}</th>
          {data.audiences.map((a) => {
            const all = data.work[what].includes(a.name)
            return (
              <Box component="td" key={a.name} sx={{ p: '0 !important' }}>
                <ButtonBase
                  aria-pressed={work?.what === what && work.audience === a.name}
                  aria-label={t('seen.cell.of', {
                    layer: t(`work.${what}`),
                    audience: titleOf(a),
                    words: t(all ? 'work.all' : isCrew(a) ? 'work.own' : 'work.nothing'),
                  })}
                  onClick={() => {
                    onOpen({ what, audience: a.name })
                  }}
                  sx={CELL}>
                  {all ? (
                    <Pill tone="well">{t('work.all')}</Pill>
                  ) : isCrew(a) ? (
                    <Pill tone="plain">{t('work.own')}</Pill>
                  ) : (
                    <Nothing />
                  )}
                </ButtonBase>
              </Box>
            )
          })}
        </tr>
      ))}
    </>
  )
}
