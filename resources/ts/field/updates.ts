/**
 * The app's shell is kept by a service worker; a newer one waits until the person says so, so no work is cut
 * off.
 */
let waiting: ServiceWorker | null = null
const watchers = new Set<() => void>()

export function watchForUpdates() {
  if (!('serviceWorker' in navigator)) return
  const tell = (worker: ServiceWorker | null) => {
    waiting = worker
    for (const watcher of watchers) watcher()
  }
  void navigator.serviceWorker.register('/app/field-sw.js', { scope: '/field' }).then((registration) => {
    if (registration.waiting) tell(registration.waiting)
    registration.addEventListener('updatefound', () => {
      const worker = registration.installing
      worker?.addEventListener('statechange', () => {
        if (worker.state === 'installed' && navigator.serviceWorker.controller) tell(worker)
      })
    })
  })
}

export const updates = {
  subscribe: (watcher: () => void) => {
    watchers.add(watcher)
    return () => watchers.delete(watcher)
  },
  ready: () => waiting !== null,
  take: () => {
    navigator.serviceWorker.addEventListener('controllerchange', () => location.reload(), { once: true })
    waiting?.postMessage('take-over')
  },
}
