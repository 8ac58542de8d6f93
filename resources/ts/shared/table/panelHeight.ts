/** The part of the room beside a map that its table takes. */
export const PANEL_HEIGHT = 'min(46%, 320px)'
