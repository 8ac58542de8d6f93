import AddAPhoto from '@mui/icons-material/AddAPhotoOutlined'
import Close from '@mui/icons-material/Close'
import GraphicEq from '@mui/icons-material/GraphicEq'
import Movie from '@mui/icons-material/MovieOutlined'
import PictureAsPdf from '@mui/icons-material/PictureAsPdfOutlined'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useEffect, useRef, useState } from 'react'
import { paint } from '../paint'
import { t } from '../texts'
import type { FileKind } from '../types'
import { takeFile, type FilePlace, type Picked } from './files'

const ICON = { photo: AddAPhoto, audio: GraphicEq, video: Movie, pdf: PictureAsPdf }

type Props = {
  place: FilePlace
  files: Picked[]
  onChange: (files: Picked[]) => void
  onRefused: (said: string[]) => void
  /** What becomes of a file once it is kept (made smaller); it takes the place of what was picked. */ prepare?: (
    file: Picked,
  ) => Promise<Picked>
  /** Told of all work on files, so that nothing is saved in the middle of it. */ onWork?: (
    work: Promise<void>,
  ) => void
  /** A tap on a photo. */ onOpen?: (file: Picked) => void
  /** Just a button that names the place. */ compact?: boolean
}

/** One place for files: what is there already, and a wide button for more. */
export function FilesInput({
  place,
  files,
  onChange,
  onRefused,
  prepare,
  onWork,
  onOpen,
  compact = false,
}: Props) {
  // Reading a file and making it ready takes a while; what was picked or taken away meanwhile counts.
  const now = useRef(files)
  now.current = files
  const put = (next: Picked[]) => {
    now.current = next
    onChange(next)
  }
  const mine = files.filter((f) => f.slot === place.slot)
  const pick = async (picked: File[]) => {
    const said: string[] = []
    const taken: Picked[] = []
    for (const file of picked) {
      const one = await takeFile(file, place).catch(() => ({
        refused: t('form.file.unreadable', { name: file.name }),
      }))
      if ('refused' in one) said.push(one.refused)
      else if (now.current.filter((f) => f.slot === place.slot).length < place.most) {
        // Kept as it is before anything is done to it: a killed page loses none of those that were read.
        put([...now.current, one])
        taken.push(one)
      } else
        said.push(
          place.slot === null
            ? t('form.photos.most', { most: place.most })
            : t('form.files.most', { slot: place.label, most: place.most }),
        )
    }
    onRefused([...new Set(said)])
    for (const one of prepare ? taken : []) {
      const ready = await prepare!(one)
      if (ready !== one && now.current.some((f) => f.id === one.id))
        put(now.current.map((f) => (f.id === one.id ? ready : f)))
    }
  }
  const begin = (list: FileList | null) => {
    // The input is emptied at once, so that the same file can be picked again; its list with it.
    const work = pick([...(list ?? [])])
    onWork?.(work)
  }
  const Icon = ICON[place.kind]
  const input = (
    <input
      type="file"
      accept={place.accept}
      multiple={place.most > 1}
      aria-label={`${place.label}: ${t(`form.add.${place.kind}`)}`}
      className="visually-hidden"
      onChange={(e) => {
        begin(e.target.files)
        e.target.value = ''
      }}
    />
  )
  if (compact)
    return (
      <Button
        component="label"
        role={undefined}
        tabIndex={-1}
        size="small"
        variant="outlined"
        startIcon={<Icon fontSize="small" />}
        sx={{ '&:focus-within': { outline: `3px solid ${paint.tide}`, outlineOffset: 2 } }}>
        {t('files.add', { place: place.label })}
        {input}
      </Button>
    )
  return (
    <Box>
      <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 1 }}>
        {place.label}
        {place.least > 0 && ' *'}
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2.5 }}>
        {mine.map((f) => (
          <FileThumb
            key={f.id}
            kind={place.kind}
            blob={f.blob}
            name={f.name}
            {...(onOpen && place.kind === 'photo' ? { onOpen: () => onOpen(f) } : {})}
            onRemove={() => onChange(files.filter((x) => x.id !== f.id))}
          />
        ))}
        {mine.length < place.most && (
          <Box
            component="label"
            sx={{
              position: 'relative',
              minWidth: 104,
              px: 2,
              height: 88,
              border: '2px dashed',
              borderRadius: 2,
              display: 'grid',
              placeItems: 'center',
              placeContent: 'center',
              gap: 0.5,
              fontWeight: 650,
              cursor: 'pointer',
              '&:focus-within': { outline: `3px solid ${paint.tide}`, outlineOffset: 2 },
            }}>
            <Icon aria-hidden /> {t(`form.add.${place.kind}`)}
            {input}
          </Box>
        )}
      </Box>
      {place.hint && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          {place.hint}
        </Typography>
      )}
    </Box>
  )
}

/** A file as a small picture, or as its name with a sign of its kind. */
export function FileThumb({
  kind,
  blob,
  name,
  onRemove,
  onOpen,
}: {
  kind: FileKind
  blob: Blob
  name: string
  onRemove?: () => void
  onOpen?: () => void
}) {
  const [url, setUrl] = useState<string | null>(null)
  useEffect(() => {
    if (kind !== 'photo') return
    const made = URL.createObjectURL(blob)
    setUrl(made)
    return () => URL.revokeObjectURL(made)
  }, [blob, kind])
  const Icon = ICON[kind]
  const image = url && (
    <img
      src={url}
      alt={onOpen ? '' : name}
      style={{ width: '100%', height: '100%', objectFit: 'cover', borderRadius: 8 }}
    />
  )
  const picture = onOpen ? (
    <ButtonBase
      onClick={onOpen}
      aria-label={t('photo.open', { name })}
      sx={{ width: '100%', height: '100%', borderRadius: 2 }}>
      {image}
    </ButtonBase>
  ) : (
    image
  )
  return (
    <Box sx={{ position: 'relative', width: 104, height: 88 }}>
      {kind === 'photo' ? (
        url && picture
      ) : (
        <Box
          sx={{
            width: '100%',
            height: '100%',
            border: '2px solid',
            borderColor: 'divider',
            borderRadius: 2,
            display: 'grid',
            placeItems: 'center',
            alignContent: 'center',
            p: 1,
            fontSize: '0.75rem',
            textAlign: 'center',
            overflow: 'hidden',
            wordBreak: 'break-all',
          }}>
          <Icon aria-hidden />
          {name.length > 26 ? `${name.slice(0, 24)}…` : name}
        </Box>
      )}
      {onRemove && (
        <IconButton
          aria-label={t('form.photo.remove', { name })}
          onClick={onRemove}
          sx={{
            position: 'absolute',
            right: -8,
            top: -8,
            width: 36,
            height: 36,
            bgcolor: 'background.paper',
            border: '2px solid',
            borderColor: 'text.primary',
            '&:hover': { bgcolor: 'background.paper' },
          }}>
          <Close fontSize="small" />
        </IconButton>
      )}
    </Box>
  )
}

export const kindOfType = (type: string): FileKind =>
  type === 'application/pdf'
    ? 'pdf'
    : type.startsWith('audio/')
      ? 'audio'
      : type.startsWith('video/')
        ? 'video'
        : 'photo'
