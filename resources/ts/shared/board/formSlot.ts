import { createContext, type ComponentType } from 'react'

export type FormProps = {
  layer: number
  /** In a layer of visits: the layer and the record that is visited. */
  visited: { layer: number; record: string } | null
  /** The record that was added. */
  onDone: (record: string) => void
  onCancel: () => void
}

/** How a record is written where the board stands; null where nobody can be known who writes. */
export const FormSlot = createContext<ComponentType<FormProps> | null>(null)
