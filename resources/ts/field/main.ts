import '../shared/allTexts'
import { openStore } from './phoneState'

// The store opens on a thread of its own while the screens' code is gone through; then the app is drawn once,
// with all that it holds.
const opened = openStore().then(
  () => true,
  () => false,
)
const app = import('./app')
void Promise.all([app, opened]).then(([{ start }, store]) => start(store))
