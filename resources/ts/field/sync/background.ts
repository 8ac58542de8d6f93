/** The name under which the browser wakes the worker when there is signal again, though the app is closed. */
export const OUTBOX_TAG = 'outbox'

type WithSync = ServiceWorkerRegistration & { sync?: { register: (tag: string) => Promise<void> } }

/**
 * Asks the browser to send what was just saved, as soon as it can; where it knows no such thing, the app does
 * it when it is opened.
 */
export async function sendWhenThereIsSignal(): Promise<void> {
  if (!('serviceWorker' in navigator)) return
  const registration = (await navigator.serviceWorker.getRegistration()) as WithSync | undefined
  // Refused by the person's settings, which is theirs to say.
  await registration?.sync?.register(OUTBOX_TAG).catch(() => undefined)
}
