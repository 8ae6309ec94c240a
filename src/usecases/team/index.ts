export {
  changeColleague,
  comeBack,
  inviteAgain,
  inviteColleague,
  leavePractice,
  setRights,
  team,
  type Team,
  type TeamLine,
} from "./team";
