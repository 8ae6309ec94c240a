export { recordDueOn, retentionKinds, retentionWords, type RetentionKind, type RetentionRules } from "./rules";
