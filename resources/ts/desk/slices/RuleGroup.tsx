import Add from '@mui/icons-material/Add'
import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import { t } from '../../shared/texts'
import type { Api } from '../../shared/types'
import { emptyGroup, isGroup, lineOn, type Group, type Joined, type Part } from './rule'
import { RuleLine } from './RuleLine'

const DEEPEST = 3

/** Parts of a rule and how they go together; groups stand in groups. */
export function RuleGroup({
  group,
  askable,
  area,
  depth = 0,
  onPart,
}: {
  group: Group
  askable: Api['Askable']
  /** Where maps for places begin. */
  area: [number, number, number, number]
  depth?: number
  /** Of any part below, by its id; null takes it out. */
  onPart: (id: string, next: Part | null) => void
}) {
  const put = (parts: Part[]) => onPart(group.id, { ...group, parts })
  return (
    <Box
      role="group"
      aria-label={t(`rule.${group.joined}`)}
      sx={
        depth === 0
          ? { display: 'grid', gap: 2.5 }
          : { display: 'grid', gap: 2.5, borderLeft: '3px solid', borderColor: 'primary.main', pl: 3, py: 1 }
      }>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <NativeSelect
          input={<OutlinedInput size="small" />}
          value={group.joined}
          onChange={(e) => onPart(group.id, { ...group, joined: e.target.value as Joined })}
          inputProps={{ 'aria-label': t('rule.joined') }}>
          {(['all', 'any', 'none'] as const).map((joined) => (
            <option key={joined} value={joined}>
              {t(`rule.${joined}`)}
            </option>
          ))}
        </NativeSelect>
        {depth > 0 && (
          <IconButton
            aria-label={t('rule.drop.group')}
            onClick={() => onPart(group.id, null)}
            sx={{ ml: 'auto' }}>
            <Close />
          </IconButton>
        )}
      </Box>
      {group.parts.map((part) =>
        isGroup(part) ? (
          <RuleGroup
            key={part.id}
            group={part}
            askable={askable}
            area={area}
            depth={depth + 1}
            onPart={onPart}
          />
        ) : (
          <RuleLine
            key={part.id}
            line={part}
            askable={askable}
            area={area}
            onChange={(next) => onPart(part.id, next)}
          />
        ),
      )}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <Button
          size="small"
          variant="outlined"
          startIcon={<Add />}
          disabled={group.parts.length >= 50}
          onClick={() => {
            const first = askable.subjects[0]
            if (first) put([...group.parts, lineOn(first)])
          }}>
          {t('rule.add')}
        </Button>
        {depth < DEEPEST && (
          <Button
            size="small"
            variant="outlined"
            startIcon={<Add />}
            disabled={group.parts.length >= 50}
            onClick={() => {
              const first = askable.subjects[0]
              const inner = emptyGroup(group.joined === 'any' ? 'all' : 'any')
              put([...group.parts, { ...inner, parts: first ? [lineOn(first)] : [] }])
            }}>
            {t('rule.add.group')}
          </Button>
        )}
      </Box>
    </Box>
  )
}
