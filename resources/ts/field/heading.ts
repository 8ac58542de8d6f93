import { useEffect, useState } from 'react'

type Turned = DeviceOrientationEvent & { webkitCompassHeading?: number }

/** Which way the top of the phone points, in degrees from north; null where the phone does not know. */
export function useHeading(): number | null {
  const [heading, setHeading] = useState<number | null>(null)
  useEffect(() => {
    const take = (event: Event) => {
      const now = headingOf(event as Turned, window.screen.orientation?.angle ?? 0)
      if (now !== null) setHeading(now)
    }
    window.addEventListener('deviceorientationabsolute', take)
    window.addEventListener('deviceorientation', take)
    return () => {
      window.removeEventListener('deviceorientationabsolute', take)
      window.removeEventListener('deviceorientation', take)
    }
  }, [])
  return heading
}

/**
 * Heading of a phone that is held flat, after the Device Orientation specification (W3C): alpha turns against
 * the clock from north. An event that is not absolute counts from anywhere, so it says nothing.
 */
export function headingOf(
  event: Pick<Turned, 'alpha' | 'absolute' | 'webkitCompassHeading'>,
  screen: number,
): number | null {
  if (typeof event.webkitCompassHeading === 'number') return (event.webkitCompassHeading + screen + 360) % 360
  if (!event.absolute || event.alpha === null) return null
  return (360 - event.alpha + screen + 360) % 360
}
