export { localTime, type LocalTime } from './zone.js';
export { activityAt, activityOf, assumedDay, workingDay, type WorkingDay } from './workingDay.js';
export { clock, delayAt, evenings, rateAt, rateShareAt } from './neighbourhood.js';
