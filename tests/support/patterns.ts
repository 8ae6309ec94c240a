import { setPatternReader } from "../../src/core/questionnaire";
import { linearPatterns } from "../../src/core/questionnaire/linear-pattern";

// As the server has it from the start.
setPatternReader(linearPatterns);
