import LockOutlined from '@mui/icons-material/LockOutlined'
import MapOutlined from '@mui/icons-material/MapOutlined'
import OpenInNew from '@mui/icons-material/OpenInNew'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import ButtonBase from '@mui/material/ButtonBase'
import Typography from '@mui/material/Typography'
import { useEffect, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { PegMark } from '../../shared/parts/PegMark'
import { Problems } from '../../shared/parts/Problems'
import { t } from '../../shared/texts'
import type { Me } from '../../shared/types'
import { setMeta, type Pack, type PackLayer, type PackMap } from '../db'
import { useMeta, usePacks } from '../phoneState'
import { openAt } from '../map/lastView'
import { useRecords } from '../records'
import { Head } from '../screens/Head'
import { WideButton } from '../screens/WideButton'
import { pegsOf } from '../map/legend'
import { partsOf } from '../map/mapParts'
import { refreshGates, type KnownGate } from './gates'

/**
 * All maps and layers that were shared with whoever bears this phone; what is closed shows a lock until they
 * sign in.
 */
export function GalleryScreen({ onSignIn }: { onSignIn: () => void }) {
  const me = useMeta<Me>('me')
  const packs = usePacks()
  const gates = useMeta<KnownGate[]>('gates') ?? []
  const [error, setError] = useState<unknown>(null)
  useEffect(() => {
    if (navigator.onLine) void refreshGates().catch(setError)
  }, [])
  const navigate = useNavigate()
  return (
    <>
      {me ? (
        <Head title={t('gallery.title')} />
      ) : (
        <Typography variant="h1" sx={{ p: 4, pb: 2 }}>
          {t('gallery.title')}
        </Typography>
      )}
      <Box sx={{ flex: 1, overflow: 'auto', p: 4, display: 'grid', gap: 6, alignContent: 'start' }}>
        <Problems error={gates.length === 0 ? error : null} />
        {!me && gates.length === 0 && <Typography color="text.secondary">{t('gallery.nothing')}</Typography>}
        {me && packs?.length === 0 && (
          <Button
            variant="outlined"
            color="inherit"
            sx={{ minHeight: 64 }}
            onClick={() => void navigate('/field/packs')}>
            {t('gallery.nopack')}
          </Button>
        )}
        {me && packs?.map((pack) => <OfPack key={pack.programme} pack={pack} />)}
        {gates.map(({ token, front }) => (
          <Shelf key={token} title={t('gallery.gate', { title: front.title })}>
            {front.things.map((thing, i) =>
              thing.open && thing.address ? (
                <Row
                  key={i}
                  icon={<OpenInNew />}
                  title={thing.title}
                  under={t('gallery.needs.signal')}
                  href={thing.address}
                />
              ) : (
                !me && (
                  <Row
                    key={i}
                    icon={<LockOutlined />}
                    title={thing.title}
                    under={t('gallery.locked')}
                    onOpen={onSignIn}
                  />
                )
              ),
            )}
          </Shelf>
        ))}
      </Box>
      {!me && (
        <Box
          sx={{ p: 3.5, borderTop: '2px solid', borderColor: 'text.primary', bgcolor: 'background.paper' }}>
          <WideButton onClick={onSignIn}>{t('signin.go')}</WideButton>
        </Box>
      )}
    </>
  )
}

function OfPack({ pack }: { pack: Pack }) {
  const navigate = useNavigate()
  const records = useRecords()
  const count = (layer: number) => records?.filter((r) => r.layer === layer && !r.gone).length
  const layers = pack.layers.filter((l) => l.visits_of === null)
  const show = (map: PackMap) => {
    openAt(map.extent)
    void setMeta('map', map.id).then(() => navigate('/field'))
  }
  const only = (layer: PackLayer) => {
    void Promise.all([
      setMeta('map', null),
      setMeta(
        'hidden',
        pack.layers.filter((l) => l.id !== layer.id).map((l) => l.id),
      ),
    ]).then(() => navigate('/field'))
  }
  return (
    <>
      {(pack.maps ?? []).length > 0 && (
        <Shelf title={t('gallery.maps', { programme: pack.name })}>
          {pack.maps?.map((map) => {
            const parts = partsOf(map, pack.layers)
            return (
              parts.length > 0 && (
                <Row
                  key={map.id}
                  icon={<MapOutlined />}
                  title={map.title}
                  under={[...new Set(parts.map((p) => p.title))].join(', ')}
                  pegs={parts.flatMap((p) => pegsOf(p.look, p.of)).slice(0, 6)}
                  onOpen={() => show(map)}
                />
              )
            )
          })}
        </Shelf>
      )}
      <Shelf title={t('gallery.layers', { programme: pack.name })}>
        {layers.map((layer) => (
          <Row
            key={layer.id}
            icon={null}
            title={layer.title}
            pegs={pegsOf(layer.look, layer).slice(0, 6)}
            under={`${t('gallery.count', { n: count(layer.id) ?? 0 })} · ${t(layer.rights.add ? 'gallery.add' : 'gallery.look')}`}
            onOpen={() => only(layer)}
          />
        ))}
      </Shelf>
    </>
  )
}

function Shelf({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section>
      <Typography variant="h2" sx={{ mb: 2 }}>
        {title}
      </Typography>
      <Box
        component="ul"
        sx={{
          listStyle: 'none',
          m: 0,
          p: 0,
          border: '1px solid',
          borderColor: 'divider',
          borderRadius: 1.5,
          bgcolor: 'background.paper',
          '& > li + li': { borderTop: '1px solid', borderColor: 'divider' },
        }}>
        {children}
      </Box>
    </section>
  )
}

type RowProps = {
  icon: ReactNode
  title: string
  under: string
  pegs?: ReturnType<typeof pegsOf>
  onOpen?: () => void
  href?: string
}

function Row({ icon, title, under, pegs = [], onOpen, href }: RowProps) {
  const way = href ? { component: 'a', href, target: '_blank', rel: 'noopener' } : { onClick: onOpen }
  return (
    <li>
      <ButtonBase
        {...way}
        sx={{
          width: '100%',
          minHeight: 72,
          px: 4,
          py: 2.5,
          gap: 3,
          justifyContent: 'flex-start',
          textAlign: 'left',
          fontSize: '1rem',
        }}>
        {icon}
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <b>{title}</b>
          <Box sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>{under}</Box>
        </Box>
        <Box
          sx={{ display: 'flex', flex: 'none', maxWidth: 120, flexWrap: 'wrap', justifyContent: 'flex-end' }}>
          {pegs.map(({ label, ...peg }, i) => (
            <PegMark key={`${i} ${label}`} {...peg} size={22} />
          ))}
        </Box>
      </ButtonBase>
    </li>
  )
}
