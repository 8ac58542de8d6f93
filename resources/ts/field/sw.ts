/// <reference lib="webworker" />
import {
  cleanupOutdatedCaches,
  createHandlerBoundToURL,
  precacheAndRoute,
  type PrecacheEntry,
} from 'workbox-precaching'
import { NavigationRoute, registerRoute } from 'workbox-routing'
import texts from 'virtual:worker-texts'
import { giveToken } from '../shared/api'
import { speak } from '../shared/texts'
import { languageOfWorker } from './language'
import { sendPhotos } from './photos/sendFiles'
import { OUTBOX_TAG } from './sync/background'
import { allRounds } from './sync/rounds'

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: (PrecacheEntry | string)[] }

// The worker holds the shell of the app. Records and operations are in the phone's store, which it shares
// with the app.
precacheAndRoute(self.__WB_MANIFEST)
cleanupOutdatedCaches()
// Also with a question behind it: a link to a gate, or to the sign-in.
registerRoute(new NavigationRoute(createHandlerBoundToURL('/field'), { allowlist: [/^\/field([/?]|$)/] }))

self.addEventListener('message', (event) => {
  if (event.data === 'take-over') void self.skipWaiting()
})
self.addEventListener('activate', (event) => event.waitUntil(self.clients.claim()))

type SyncEvent = ExtendableEvent & { tag: string }
declare const cookieStore: { get: (name: string) => Promise<{ value: string } | null> } | undefined

self.addEventListener('sync', (event) => {
  if ((event as SyncEvent).tag === OUTBOX_TAG) (event as SyncEvent).waitUntil(sendOutbox())
})

/**
 * Empties the outbox while the app is closed; an app that is open does it itself. Records first, then their
 * files, each going on where it was cut off. What fails here the browser tries again later.
 */
async function sendOutbox(): Promise<void> {
  const pages = await self.clients.matchAll({ type: 'window' })
  if (pages.length > 0) return pages.forEach((page) => page.postMessage('sync'))
  await navigator.locks.request('pin-yard-sync', { ifAvailable: true }, async (lock) => {
    if (!lock) return
    const language = await languageOfWorker()
    speak(language, texts[language])
    giveToken((await cookieStore?.get('XSRF-TOKEN'))?.value ?? null)
    await allRounds()
    await sendPhotos()
  })
}
