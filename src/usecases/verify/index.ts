export { checkCode, checkDetails, openFreely, openLink, readOutCode, sendCode, type DoorError, type DoorView } from './door';
