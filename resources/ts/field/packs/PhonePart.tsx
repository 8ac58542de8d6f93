import NativeSelect from '@mui/material/NativeSelect'
import OutlinedInput from '@mui/material/OutlinedInput'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { FORMATS, type Format } from '../../shared/form/coordinates'
import { Labelled, TextInput } from '../../shared/parts/Labelled'
import { LanguageChoice } from '../../shared/parts/LanguageChoice'
import { Segments } from '../../shared/parts/Segments'
import { spokenLanguage, t } from '../../shared/texts'
import { setFormat, useFormat } from '../format'
import { chooseLanguage } from '../language'
import { setReceiver, usePosition, useReceiver } from '../position'
import { setTextSize, useTextSize } from '../textsize'

/** How this phone shows things, and what it is connected with. */
export function PhonePart() {
  const format = useFormat()
  const size = useTextSize()
  const receiver = useReceiver()
  const { position } = usePosition()
  const [typed, setTyped] = useState<string | null>(null)
  return (
    <>
      <Typography variant="h2">{t('packs.phone')}</Typography>
      <div>
        <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>{t('field.text')}</Typography>
        <Segments
          label={t('field.text')}
          value={size}
          onChange={setTextSize}
          options={[
            { value: 'usual', label: t('field.text.usual') },
            { value: 'big', label: t('field.text.big') },
          ]}
        />
      </div>
      <LanguageChoice value={spokenLanguage()} onChange={(l) => void chooseLanguage(l)} />
      <Labelled label={t('field.format')}>
        {({ id }) => (
          <NativeSelect
            id={id}
            input={<OutlinedInput />}
            value={format}
            onChange={(e) => setFormat(e.target.value as Format)}>
            {FORMATS.map((f) => (
              <option key={f} value={f}>
                {t(`field.format.${f}`)}
              </option>
            ))}
          </NativeSelect>
        )}
      </Labelled>
      <TextInput
        label={t('field.receiver')}
        hint={t(
          receiver ? (position ? 'field.receiver.on' : 'field.receiver.silent') : 'field.receiver.hint',
          { m: Math.round(position?.accuracy ?? 0), n: position?.satellites ?? 0 },
        )}
        value={typed ?? receiver ?? ''}
        onChange={setTyped}
        onBlur={() => {
          if (typed !== null) void setReceiver(typed)
          setTyped(null)
        }}
        inputProps={{ inputMode: 'url', autoComplete: 'off' }}
      />
    </>
  )
}
