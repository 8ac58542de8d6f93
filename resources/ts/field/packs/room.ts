import { useQuery } from '@tanstack/react-query'
import { decimal } from '../../shared/texts'

/** Bytes that this phone's browser still gives; null before it is known. */
export function useFree(): number | null {
  const space = useQuery({ queryKey: ['space'], queryFn: () => navigator.storage.estimate() })
  return space.data ? (space.data.quota ?? 0) - (space.data.usage ?? 0) : null
}

/** A pack grows while it is used: photos and records come to it. */
const ROOM = 1.25
export const isTight = (free: number | null, bytes: number) => free !== null && free < bytes * ROOM

export const mb = (bytes: number) =>
  bytes >= 1_073_741_824
    ? `${decimal((bytes / 1_073_741_824).toFixed(1))} GB`
    : bytes < 1_048_576
      ? `${Math.max(1, Math.round(bytes / 1024))} kB`
      : `${decimal((bytes / 1_048_576).toFixed(1))} MB`
