export {
  addVisitType,
  changeVisitType,
  offerVisitType,
  retireVisitType,
  visitTypes,
  type VisitTypeLine,
  type VisitTypes,
} from "./visit-types";
export {
  bookVisit,
  cancelVisit,
  moveVisit,
  restoreVisit,
  visitChoices,
  visitView,
  type NotFree,
  type VisitChoices,
  type VisitView,
} from "./visits";
export type { WithOne } from "./with-one";
export { week, type Week, type WeekLine } from "./week";
export { type FirstStep } from "./first-steps";
export { daySheet, type DayLine, type DaySheet } from "./day-sheet";
