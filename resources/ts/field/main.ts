import { bringTexts } from '../shared/catalogues'
import { t } from '../shared/texts'
import { languageOfPhone } from './language'
import { metaNow, openStore } from './phoneState'

// The store opens on a thread of its own while the screens' code is gone through; then the app is drawn once,
// with all that it holds, in the language that it says.
const opened = openStore()
  .then(
    () => true,
    () => false,
  )
  .then(async (store) => {
    await bringTexts(languageOfPhone(metaNow))
    document.title = t('page.field')
    return store
  })
const app = import('./app')
void Promise.all([app, opened]).then(([{ start }, store]) => start(store))
