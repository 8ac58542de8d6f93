/* What tests/bench/looks.mjs puts on its page. */
export { default as maplibregl } from 'maplibre-gl'
export { providePegs } from '../../resources/ts/shared/map/pegs'
export { putLayers } from '../../resources/ts/shared/map/putLayers'
