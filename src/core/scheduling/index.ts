export { dayIn, daysBetween } from "./day-in";
export { addDays, addMonths, at, boundsOf, isDay, monthsLater, type Day } from "./days";
export { holdsUntil, isDue, type PeopleWish } from "./choose-people";
export { mondayOf, mostRepeats, timesOf, type TimeOfVisit } from "./repeats";
