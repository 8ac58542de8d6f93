import type { Api } from './types'

/** A planned piece of field work, with how far it has come. */
export type Outing = Api['Outing']
