export { alertsOf, missingWords, scoresOf, scoreText, type Alert, type Score } from "./score";
