import { useState } from 'react'
import { useNavigate } from 'react-router'
import type { Picked } from '../../shared/map/MapView'
import { RecordCard } from '../../shared/parts/RecordCard'
import type { PhoneRecord } from '../db'
import type { Rules } from '../slices/rule'
import type { PackLayer } from '../db'
import { cardOf } from './card'
import { tallyOnCard, type ShownPart } from './mapParts'

/** The card of a record of the chosen map, of several under one tap one after the other. */
export function PartCard({
  under,
  parts,
  records,
  layers,
  rulesOf,
  onClose,
}: {
  /** Those under the tap that have a card, with their parts. */
  under: { picked: Picked; part: ShownPart }[]
  parts: ShownPart[]
  records: PhoneRecord[]
  /** All on this phone, for visits have one of their own. */
  layers: PackLayer[]
  rulesOf: (layer: PackLayer) => Rules | null
  onClose: () => void
}) {
  const navigate = useNavigate()
  const [at, setAt] = useState(0)
  const one = under[at]
  const part = parts.find((p) => p.id === one?.part.id)
  const record = records.find((r) => r.id === one?.picked.id)
  // Gone meanwhile, or of a part that was switched off.
  if (!part?.card || !record) return null
  const visits = layers.find((l) => l.visits_of === part.of.id)
  return (
    <RecordCard
      card={cardOf(
        part.card,
        part.of,
        record,
        rulesOf(part.of)?.zone ?? 'UTC',
        tallyOnCard(part, record, records, rulesOf),
        visits
          ? {
              layer: visits,
              records: records.filter((r) => r.layer === visits.id && r.visited === record.id),
            }
          : null,
      )}
      photo={() => ''}
      place={under.length > 1 ? { n: at + 1, of: under.length } : null}
      onNext={() => setAt((n) => (n + 1) % under.length)}
      onOpen={() => void navigate(`/field/record/${record.id}`)}
      onClose={onClose}
    />
  )
}
