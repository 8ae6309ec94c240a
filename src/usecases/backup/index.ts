export { safekeeping, warningsOf, type Safekeeping } from "./warnings";
