export { addDays, addMonths, at, boundsOf, dayIn, daysBetween, isDay, type Day } from "./days";
export { fitsWish, holdsUntil, type PeopleWish, type PersonFacts } from "./choose-people";
