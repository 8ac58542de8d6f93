import Alert from '@mui/material/Alert'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import Chip from '@mui/material/Chip'
import Typography from '@mui/material/Typography'
import { useState, type ReactNode } from 'react'
import { FieldInput } from '../shared/form/FieldInput'
import { localToday } from '../shared/form/RecordForm'
import { HEADS } from '../shared/map/pegs'
import { Labelled, TextInput } from '../shared/parts/Labelled'
import { Legend } from '../shared/parts/Legend'
import { PegMark } from '../shared/parts/PegMark'
import { PhoneFrame } from '../shared/parts/PhoneFrame'
import { Pill } from '../shared/parts/Pill'
import { Segments } from '../shared/parts/Segments'
import { Empty, Sheet } from '../shared/parts/Sheet'
import { StageLine } from '../shared/parts/StageLine'
import { Strip } from '../shared/parts/Strip'
import { bringTexts } from '../shared/catalogues'
import { languageOfPage } from '../shared/language'
import { mount } from '../shared/Root'
import { MARK_COLOURS, paint } from '../shared/paint'
import { t } from '../shared/texts'
import { makeTheme } from '../shared/theme'
import type { Field, OurHead, Value } from '../shared/types'

const COLOURS = MARK_COLOURS.slice(0, 6)
const heads = Object.keys(HEADS) as OurHead[]
const fields: Field[] = [
  { key: 'code', label: 'Short text', kind: 'short_text', required: true, hint: 'With a hint' },
  { key: 'n', label: 'Whole number', kind: 'whole_number', limits: { lowest: 1, highest: 9 } },
  {
    key: 'c',
    label: 'One choice',
    kind: 'one_choice',
    choices: [
      { code: 'a', label: 'Loggerhead' },
      { code: 'b', label: 'Green' },
    ],
  },
  { key: 'd', label: 'Date', kind: 'date' },
]

function Part({ name, children }: { name: string; children: ReactNode }) {
  return (
    <Box component="section" sx={{ mb: 8 }}>
      <Typography variant="h2" sx={{ mb: 3 }}>
        {name}
      </Typography>
      {children}
    </Box>
  )
}

function Kit() {
  const [segment, setSegment] = useState('one')
  const [values, setValues] = useState<Record<string, Value>>({ c: 'a', n: 12 })
  return (
    <Box component="main" sx={{ maxWidth: 1180, mx: 'auto', p: 5 }}>
      <Typography variant="h1">{t('kit.title')}</Typography>
      <Typography color="text.secondary" sx={{ mb: 6 }}>
        {t('kit.lead')}
      </Typography>
      <Part name="The line">
        <StageLine
          base="/kit"
          current="check"
          notes={{
            plan: { text: '3 questions', tone: 'plain' },
            build: { text: 'ready', tone: 'well' },
            check: { text: '17 new', tone: 'warn' },
          }}
        />
      </Part>
      <Part name="Pegs">
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 4 }}>
          {heads.map((head, i) => (
            <Box key={head} sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
              <PegMark head={head} colour={COLOURS[i] ?? paint.ink} size={34} />
              {t(`peg.${head}`)}
            </Box>
          ))}
        </Box>
      </Part>
      <Part name="Pills, chips, segments, buttons">
        <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, alignItems: 'center' }}>
          {(['plain', 'well', 'warn', 'soft', 'info', 'dark'] as const).map((tone) => (
            <Pill key={tone} tone={tone}>
              {tone}
            </Pill>
          ))}
          <Chip label="Since 1 May" onDelete={() => undefined} />
          <Segments
            label="Segments"
            value={segment}
            onChange={setSegment}
            options={[
              { value: 'one', label: 'One' },
              { value: 'two', label: 'Two' },
            ]}
          />
          <Button>Do it</Button>
          <Button variant="outlined">Or this</Button>
          <Button disabled>Not now</Button>
          <Button color="secondary">Attention</Button>
          <Button color="error">Danger</Button>
        </Box>
      </Part>
      <Part name="Strips">
        <Box sx={{ display: 'grid', gap: 2, maxWidth: 420 }}>
          <Strip tone="well" left={t('strip.allsent')} right={t('strip.signal')} />
          <Strip tone="busy" left={t('strip.waiting', { n: 9, age: '2 h' })} right={t('strip.sending')} />
          <Strip tone="warn" left={t('strip.waiting', { n: 9, age: '2 h' })} right={t('strip.nosignal')} />
        </Box>
      </Part>
      <Part name="Sheets">
        <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: { md: '1fr 1fr' } }}>
          <Sheet title="A sheet" action={<Button size="small">Action</Button>}>
            Flat, with a hairline.
          </Sheet>
          <Sheet tone="warn" title="A sheet that wants attention">
            With an orange edge.
          </Sheet>
          <Sheet title="Legend">
            <Legend
              single="All"
              lines={heads.slice(0, 4).map((head, i) => ({
                head,
                colour: COLOURS[i] ?? paint.ink,
                code: head,
                label: t(`peg.${head}`),
                count: 100 * (4 - i),
              }))}
            />
          </Sheet>
          <Empty title="An empty screen" action={<Button>What to do next</Button>}>
            It says what belongs here.
          </Empty>
          <Alert severity="error" variant="outlined">
            Clutch size is 900; the highest allowed is 250.
          </Alert>
          <Alert severity="info" variant="outlined">
            Saved on this phone. Sends when there is signal.
          </Alert>
        </Box>
      </Part>
      <Part name="Inputs">
        <Box sx={{ display: 'grid', gap: 4, gridTemplateColumns: { md: '1fr 1fr' } }}>
          <TextInput label="At the desk" hint="A hint" value="text" />
          <TextInput label="With an error" error="This must not be empty." needed value="" />
          <Labelled label="Anything">{({ id }) => <input id={id} type="range" />}</Labelled>
        </Box>
      </Part>
      <Part name="The form on a phone">
        <PhoneFrame label="A phone">
          <Strip tone="well" left={t('strip.allsent')} right={t('strip.nosignal')} />
          <Box sx={{ p: 4, display: 'grid', gap: 4, overflow: 'auto' }}>
            {fields.map((f) => (
              <FieldInput
                key={f.key}
                field={f}
                value={values[f.key] ?? null}
                onChange={(v) => setValues({ ...values, [f.key]: v })}
                zone="UTC"
                today={localToday('UTC')}
                error={
                  f.key === 'n'
                    ? t('problem.above_highest', { label: f.label, value: 12, highest: 9 })
                    : undefined
                }
              />
            ))}
          </Box>
        </PhoneFrame>
      </Part>
    </Box>
  )
}

void bringTexts(languageOfPage()).then(() => mount(makeTheme(16), <Kit />))
