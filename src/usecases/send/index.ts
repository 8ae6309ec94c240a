export { packetJourney, reissueLink, sendOptions, sendPacket, type PacketJourney, type SendOptions } from './send-packet';
export { postMessage, postRoom, type PostLine } from './post-room';
