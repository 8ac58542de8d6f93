declare module 'exifr/dist/mini.esm.mjs' {
  /** Where a picture was taken, in degrees; nothing when it does not say. */
  export function gps(picture: Blob): Promise<{ latitude: number; longitude: number } | undefined>
}
