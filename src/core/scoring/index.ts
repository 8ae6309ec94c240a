export {
  alertsOf,
  fullRange,
  gistOf,
  missingWords,
  scoresOf,
  scoreText,
  type Alert,
  type Gist,
  type Score,
} from "./score";
