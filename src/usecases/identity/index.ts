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
  confirmSecondFactor,
  endSecondFactor,
  idleLimit,
  openSession,
  secondFactorState,
  setSingleKeys,
  staySignedIn,
  signIn,
  signOut,
  startSecondFactor,
  verifySecondFactor,
  type SignInError,
} from "./sign-in";
