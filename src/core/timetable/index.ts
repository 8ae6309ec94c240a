export { addDays, at, boundsOf, dayIn, daysBetween, isDay, type Day } from './days';
