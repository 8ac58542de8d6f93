/** A box as the polygon that a map draws. */
export const boxPolygon = (west: number, south: number, east: number, north: number): GeoJSON.Polygon => ({
  type: 'Polygon',
  coordinates: [
    [
      [west, south],
      [east, south],
      [east, north],
      [west, north],
      [west, south],
    ],
  ],
})
