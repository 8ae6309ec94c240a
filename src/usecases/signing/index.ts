export { signPart, type SignError } from "./sign-part";
