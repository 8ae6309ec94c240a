export { ok, fail, type Result } from "./result";
export { assertNever } from "./assert-never";
export type { Brand, Id } from "./ids";
export { type Instant, instant, instantMs, laterBy, isBefore } from "./instant";
export { directionOf, isLanguageTag, languageName } from "./language-tag";
export { holdsWords, plainLetters } from "./plain-letters";
export type { Sealer } from "./sealer";
export { libraryRights, type LibraryRight, type Role } from "./roles";
export { isSameOrigin } from "./same-origin";
