export { daySheet, type DayLine, type DaySheet } from "./day-sheet";
export { people, type PersonLine } from "./people";
export { changeContact, changeRelation, endRelation, reachView, type ReachView } from "./reach";
export { addClient, addContact, addRelation, type AddClientError } from "./add-client";
