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
