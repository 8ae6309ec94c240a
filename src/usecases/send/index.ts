export { packetJourney, reissueLink, sendOptions, sendPacket, sendPacketSchema, type PacketJourney, type SendOptions } from './send-packet';
export { postMessage, postRoom, type PostLine } from './post-room';
