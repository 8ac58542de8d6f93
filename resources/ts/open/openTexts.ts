import texts from 'virtual:open-texts'
import { addTexts } from '../shared/texts'

/* The sentences that can be said on open pages (resources/build/open-texts.mjs): a visitor does not fetch those of the desk. */
addTexts(texts)
