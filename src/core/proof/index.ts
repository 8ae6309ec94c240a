export { hasErrors, proof, type Finding, type FindingCode, type ProofPractice, type ProofReport } from "./proof";
export { pathsOf, type Paths } from "./paths";
export { possibleScores, type ScoreRange } from "./score-range";
export { frenchSyllablesIn, highestGrade, readingOf, spanishSyllablesIn, syllablesIn, type Reading } from "./reading";
export { litBy, mapOf, unfolded, type MapNode } from "./map";
