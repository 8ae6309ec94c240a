export { alertsOf, combine, contribution, numbersOf, scoresOf, type Alert, type Score } from './score';
