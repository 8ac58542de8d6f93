/**
 * What time it is. A phone's own clock may be days off; where the server has told by how much, everything
 * that people read or that a form decides goes by the corrected time.
 */
let behindMs = 0

/**
 * Milliseconds from which on a clock is called wrong; below that the way through the network may be the
 * reason.
 */
export const CLOCK_WRONG_MS = 60_000

/** Takes in by how many milliseconds this machine's clock is behind the server's. */
export const setClockBehind = (ms: number) => {
  behindMs = Math.abs(ms) >= CLOCK_WRONG_MS ? ms : 0
}

export const now = (): Date => new Date(Date.now() + behindMs)
