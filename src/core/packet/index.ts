export { detailsMatch, doorFallbacks, doorFor, doorWays, startingDoor, type Door, type DoorPolicy, type DoorWay } from './door';
export { isOpenAgain, type SentBack, type SentBackLine } from './sent-back';
export { after, isOpen, packetStates, packetStateWords, readinessOf, stateAt, type PacketGlance, type PacketState, type Readiness } from './state';
