/** The weather of the invented hill, as the simulated service and thermometer tell it too. */
export { dayAtStation, dayInBush, foretold, later } from '../standins/climate.mjs';
