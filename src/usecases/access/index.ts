export { giveBack, handOver } from "./hand-over";
export {
  checkCode,
  checkDetails,
  openFreely,
  openKnown,
  openLink,
  readOutCode,
  sendCode,
  type DoorError,
  type DoorView,
} from "./door";
