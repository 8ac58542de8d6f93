import en from '../../texts/en.json' with { type: 'json' }
import { addTexts } from './texts'

/* For the screens of those who work here: all sentences. What the public opens carries its own alone (open/openTexts.ts). */
addTexts(en)
