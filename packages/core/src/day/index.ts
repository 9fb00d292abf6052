export { localTime, type LocalTime } from './zone.js';
export { activityAt, workingDay, type WorkingDay } from './workingDay.js';
export { clock, delayAt, rateAt, rateShareAt } from './neighbourhood.js';
