export { checkCode, openLink, sendCode, type DoorError, type DoorView } from './door';
