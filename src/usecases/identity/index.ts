export { demoPeople, type DemoPerson } from "./demo-people";
export {
  confirmSecondFactor,
  endSecondFactor,
  idleLimit,
  secondFactorState,
  setSingleKeys,
  staySignedIn,
  signIn,
  signOut,
  startSecondFactor,
  verifySecondFactor,
  type SignInError,
} from "./sign-in";
