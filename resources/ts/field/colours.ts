import { createContext, useContext } from 'react'

/** Sunlight or night colours of the field app. */
export type Light = 'sun' | 'night'
export const LightContext = createContext<{ light: Light; setLight: (light: Light) => void }>({
  light: 'sun',
  setLight: () => undefined,
})
export const useLight = () => useContext(LightContext)
