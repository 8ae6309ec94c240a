export { demoPeople, type DemoPerson } from "./demo-people";
export {
  confirmSecondFactor,
  endSecondFactor,
  secondFactorState,
  signIn,
  signOut,
  startSecondFactor,
  verifySecondFactor,
  type SignInError,
} from "./sign-in";
