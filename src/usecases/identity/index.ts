export { demoPeople, type DemoPerson } from "./demo-people";
export {
  changePassword,
  forgotPassword,
  openTicket,
  ownSessions,
  signOutElsewhere,
  takeTicket,
  type OwnSession,
  type TicketView,
} from "./password";
export {
  addPasskey,
  askPasskey,
  removePasskey,
  secondWays,
  startPasskey,
  verifyPasskey,
  type SecondWays,
} from "./passkeys";
export {
  confirmSecondFactor,
  endSecondFactor,
  renewRecoveryCodes,
  secondFactorState,
  startSecondFactor,
  verifySecondFactor,
  type RecoveryCodes,
  type SecondFactorState,
} from "./second-factor";
export {
  idleLimit,
  openSession,
  setSingleKeys,
  signIn,
  signOut,
  staySignedIn,
  type SignedIn,
  type SignInError,
} from "./sign-in";
