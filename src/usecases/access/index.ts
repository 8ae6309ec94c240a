export { giveBack, handOver } from "./hand-over";
export {
  checkCode,
  checkDetails,
  openFreely,
  openKnown,
  openLink,
  readOutCode,
  sendCode,
  stayIn,
  type DoorError,
  type DoorView,
} from "./door";
