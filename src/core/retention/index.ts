export { recordDueOn, retentionKinds, type RetentionKind, type RetentionRules } from "./rules";
