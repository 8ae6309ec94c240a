export {
  changeColleague,
  comeBack,
  inviteAgain,
  inviteColleague,
  leavePractice,
  requireSecondFactor,
  setRights,
  team,
  type Team,
  type TeamLine,
} from "./team";
