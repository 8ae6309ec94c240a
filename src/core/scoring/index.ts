export { alertsOf, scoresOf, type Alert, type Score } from "./score";
