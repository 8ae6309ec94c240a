export { alertsOf, scoresOf, weightOf, type Alert, type Score } from './score';
