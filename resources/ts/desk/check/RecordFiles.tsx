import DeleteOutline from '@mui/icons-material/DeleteOutline'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import Typography from '@mui/material/Typography'
import { useState } from 'react'
import { sentences } from '../../shared/api'
import { declare, filePlaces, type Picked } from '../../shared/form/files'
import { FilesInput, kindOfType } from '../../shared/form/FilesInput'
import { Pill } from '../../shared/parts/Pill'
import { t } from '../../shared/texts'
import type { Layer, Photo, RecordRow } from '../../shared/types'
import { sendFile } from '../../shared/upload'
import { announceFiles, deleteFile, readRecord, restoreFile } from '../queries/records'

/** What a record carries: shown, heard, opened; what is wrong is taken away, and put back. */
export function RecordFiles({
  record,
  layer,
  onChanged,
}: {
  record: RecordRow
  layer: Layer
  onChanged: (record: RecordRow) => void
}) {
  const [said, setSaid] = useState<string[]>([])
  const [gone, setGone] = useState<Photo | null>(null)
  const act = (work: Promise<RecordRow>) =>
    work
      .then((r) => {
        setSaid([])
        onChanged(r)
      })
      .catch((e: unknown) => setSaid(sentences(e)))
  const remove = (photo: Photo) => {
    setGone(photo)
    void act(deleteFile(photo.id))
  }
  const label = (slot: string | null) => layer.design.slots?.find((s) => s.key === slot)?.label
  if (record.photos.length === 0 && !gone) return null
  return (
    <Box sx={{ display: 'grid', gap: 3 }}>
      {said.length > 0 && (
        <Box role="alert" sx={{ color: 'error.main' }}>
          {said.map((line) => (
            <div key={line}>{line}</div>
          ))}
        </Box>
      )}
      {gone && (
        <Box role="status" sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
          {t('files.gone', { name: gone.name })}
          <Button
            size="small"
            variant="outlined"
            onClick={() => {
              setGone(null)
              void act(restoreFile(gone.id))
            }}>
            {t('undo')}
          </Button>
        </Box>
      )}
      {record.photos.map((p) => (
        <Box key={p.id}>
          {p.slot && (
            <Typography sx={{ fontWeight: 650, fontSize: '0.92rem', mb: 0.5 }}>
              {label(p.slot) ?? p.slot}
            </Typography>
          )}
          <OneFile
            photo={p}
            record={record}
            {...(layer.rights.change ? { onRemove: () => remove(p) } : {})}
          />
        </Box>
      ))}
    </Box>
  )
}

/** The places of a record that have room for more files. */
export function AddFiles({
  record,
  layer,
  onChanged,
}: {
  record: RecordRow
  layer: Layer
  onChanged: (record: RecordRow) => void
}) {
  const [said, setSaid] = useState<string[]>([])
  const [share, setShare] = useState<number | null>(null)
  const places = filePlaces(layer.design)
    .map((place) => ({
      ...place,
      least: 0,
      most: place.most - record.photos.filter((p) => p.slot === place.slot).length,
    }))
    .filter((place) => place.most > 0)
  const add = async (files: Picked[]) => {
    if (files.length === 0) return
    try {
      await announceFiles(layer.id, record.id, {
        files: await Promise.all(files.map(declare)),
      })
      for (const file of files) await sendFile(file, setShare)
      onChanged(await readRecord(layer.id, record.id))
      setSaid([])
    } catch (e) {
      setSaid(sentences(e))
    } finally {
      setShare(null)
    }
  }
  if (!layer.rights.change || places.length === 0) return null
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      {said.length > 0 && (
        <Box role="alert" sx={{ color: 'error.main' }}>
          {said.map((line) => (
            <div key={line}>{line}</div>
          ))}
        </Box>
      )}
      {share !== null && (
        <Typography role="status" variant="body2">
          {t('files.sending', { share: Math.round(share * 100) })}
        </Typography>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5 }}>
        {places.map((place) => (
          <FilesInput
            compact
            key={place.slot ?? ''}
            place={place}
            files={[]}
            onChange={(f) => void add(f)}
            onRefused={setSaid}
          />
        ))}
      </Box>
    </Box>
  )
}

function OneFile({ photo, record, onRemove }: { photo: Photo; record: RecordRow; onRemove?: () => void }) {
  const address = `/api/v1/attachments/${photo.id}`
  const kind = kindOfType(photo.type)
  const name = record.name ?? ''
  return (
    <Box sx={{ position: 'relative' }}>
      {photo.state !== 'stored' ? (
        <Pill tone="soft">
          {t(photo.state === 'on_way' ? 'record.photo.on_way' : 'record.photo.refused')}
        </Pill>
      ) : kind === 'photo' ? (
        <img
          src={`${address}/view`}
          alt={t('record.photo', { name })}
          style={{ width: '100%', borderRadius: 6, display: 'block' }}
        />
      ) : kind === 'audio' ? (
        <Box>
          <Typography variant="body2">{photo.name}</Typography>
          <audio
            controls
            preload="none"
            src={`${address}/original`}
            aria-label={photo.name}
            style={{ width: '100%' }}
          />
        </Box>
      ) : kind === 'video' ? (
        <video
          controls
          preload="metadata"
          src={`${address}/original`}
          aria-label={photo.name}
          style={{ width: '100%', borderRadius: 6 }}
        />
      ) : (
        <Button
          variant="outlined"
          component="a"
          href={`${address}/original`}
          target="_blank"
          rel="noreferrer">
          {t('files.open', { name: photo.name })}
        </Button>
      )}
      {onRemove && (
        <IconButton
          size="small"
          aria-label={t('files.remove', { name: photo.name })}
          title={t('files.remove', { name: photo.name })}
          onClick={onRemove}
          sx={{
            position: 'absolute',
            right: 4,
            top: 4,
            bgcolor: 'background.paper',
            border: '1px solid',
            borderColor: 'divider',
            '&:hover': { bgcolor: 'background.paper' },
          }}>
          <DeleteOutline fontSize="small" />
        </IconButton>
      )}
    </Box>
  )
}
