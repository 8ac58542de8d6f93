import { api, ApiError } from '../../shared/api'
import type { GateFront } from '../../shared/types'
import { meta, setMeta } from '../db'

/**
 * Gates whose link was opened on this phone; what hung there when it was last asked is kept for the time
 * without signal.
 */
export type KnownGate = { token: string; front: GateFront }

const gates = async () => (await meta<KnownGate[]>('gates')) ?? []

/** Learns of a gate from its link; one that leads nowhere is forgotten. */
export async function learnGate(token: string): Promise<void> {
  const known = await gates()
  try {
    const front = await api<GateFront>('GET', `/open/gates/${token}`)
    await setMeta('gates', [...known.filter((g) => g.token !== token), { token, front }])
  } catch (e) {
    if (e instanceof ApiError && e.status === 404)
      await setMeta(
        'gates',
        known.filter((g) => g.token !== token),
      )
    else if (!known.some((g) => g.token === token)) throw e
  }
}

/** Asks all known gates what hangs there now; without signal what is known stays. */
export async function refreshGates(): Promise<void> {
  for (const { token } of await gates()) await learnGate(token)
}
