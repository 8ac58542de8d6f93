import en from '../../resources/texts/en.json' with { type: 'json' }
import { speak } from '../../resources/ts/shared/texts'

/* For tests without a page: all sentences, in English. */
speak('en', en)
