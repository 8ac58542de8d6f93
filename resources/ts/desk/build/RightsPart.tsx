import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Checkbox from '@mui/material/Checkbox'
import FormControlLabel from '@mui/material/FormControlLabel'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Radio from '@mui/material/Radio'
import RadioGroup from '@mui/material/RadioGroup'
import Typography from '@mui/material/Typography'
import { useQuery } from '@tanstack/react-query'
import { Segments } from '../../shared/parts/Segments'
import { Sheet } from '../../shared/parts/Sheet'
import { t } from '../../shared/texts'
import type { CrewRights, Design, Whose } from '../../shared/types'
import { useProgramme } from '../ProgrammePage'
import { peopleOf } from '../queries/programmes'

type Props = { design: Design; onChange: (change: Partial<Design>) => void }

/** What crews may do with records, single crews apart from the others, and whether the public may see any. */
export function RightsPart({ design, onChange }: Props) {
  const programme = useProgramme()
  const people = useQuery(peopleOf(programme.id))
  const { rights } = design
  const crews = rights.crews ?? []
  const put = (next: Partial<Design['rights']>) => {
    const { crews: list, public: open, ...rest } = { ...rights, ...next }
    onChange({
      rights: {
        ...rest,
        ...(list?.length ? { crews: list } : {}),
        ...(open && !open.see ? { public: open } : {}),
      },
    })
  }
  const others = people.data?.crews.filter((c) => !crews.some((r) => r.crew === c.name)) ?? []
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      <Sheet title={t(crews.length ? 'rights.crew.others' : 'rights.crew')}>
        <Rights of={t('rights.crew')} rights={rights.crew} onChange={(crew) => put({ crew })} />
        <Typography variant="body2" color="text.secondary" sx={{ mt: 3 }}>
          {t('rights.note')}
        </Typography>
      </Sheet>
      {crews.map((one, i) => (
        <Sheet key={one.crew}>
          <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center' }}>
            <Typography variant="h3">{t('rights.crew.one', { crew: one.crew })}</Typography>
            <IconButton
              size="small"
              aria-label={t('rights.crew.remove', { crew: one.crew })}
              onClick={() => put({ crews: crews.filter((_, j) => j !== i) })}>
              <DeleteOutline fontSize="small" />
            </IconButton>
          </Box>
          <Rights
            of={one.crew}
            rights={one}
            onChange={(r) => put({ crews: crews.map((c, j) => (j === i ? { ...r, crew: one.crew } : c)) })}
          />
        </Sheet>
      ))}
      {others.length > 0 && (
        <NativeSelect
          input={<OutlinedInput />}
          value=""
          sx={{ width: 'fit-content' }}
          inputProps={{ 'aria-label': t('rights.crew.add') }}
          onChange={(e) =>
            e.target.value && put({ crews: [...crews, { ...rights.crew, crew: e.target.value }] })
          }>
          <option value="">{t('rights.crew.add')}</option>
          {others.map((c) => (
            <option key={c.id} value={c.name}>
              {c.name}
            </option>
          ))}
        </NativeSelect>
      )}
      <Sheet title={t('rights.public')}>
        <FormControlLabel
          control={
            <Checkbox
              checked={rights.public?.see ?? true}
              onChange={(e) => put({ public: { see: e.target.checked } })}
            />
          }
          label={t('rights.public.see')}
        />
        <Typography variant="body2" color="text.secondary">
          {t('rights.public.note')}
        </Typography>
      </Sheet>
    </Box>
  )
}

function Rights({
  of,
  rights,
  onChange,
}: {
  of: string
  rights: CrewRights
  onChange: (rights: CrewRights) => void
}) {
  const put = (change: Partial<CrewRights>) => onChange({ ...rights, ...change })
  return (
    <>
      <FormControlLabel
        control={<Checkbox checked={rights.add} onChange={(e) => put({ add: e.target.checked })} />}
        label={t('rights.add')}
      />
      <RadioGroup
        aria-label={`${t('rights.see')} (${of})`}
        value={rights.see}
        onChange={(e) => put({ see: e.target.value as 'all' | 'own' })}
        sx={{ mt: 2 }}>
        <FormControlLabel value="all" control={<Radio />} label={t('rights.all')} />
        <FormControlLabel value="own" control={<Radio />} label={t('rights.own')} />
      </RadioGroup>
      {(['change', 'delete'] as const).map((right) => (
        <Box
          key={right}
          sx={{
            display: 'flex',
            alignItems: 'center',
            justifyContent: 'space-between',
            gap: 3,
            mt: 3,
            flexWrap: 'wrap',
          }}>
          <Typography sx={{ fontWeight: 650 }}>{t(`rights.${right}`)}</Typography>
          <Segments<Whose>
            label={`${t(`rights.${right}`)} (${of})`}
            value={rights[right]}
            onChange={(whose) => put({ [right]: whose })}
            options={(['all', 'own', 'none'] as const).map((whose) => ({
              value: whose,
              label: t(`rights.whose.${whose}`),
            }))}
          />
        </Box>
      ))}
    </>
  )
}
