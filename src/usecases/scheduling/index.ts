export { daySheet, type DayLine, type DaySheet } from "./day-sheet";
